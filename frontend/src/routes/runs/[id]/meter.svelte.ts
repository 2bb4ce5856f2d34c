/**
 * A measuring device at the Run screen: connected, measuring, and how the last measurement ended.
 */
import { api, must, problemText, type Schemas } from '#lib/api/client.ts';
import type { Run } from '#lib/run.svelte.ts';

type Device = Schemas['DeviceView'];
type Result = Schemas['PullResult'];
type Part = { seconds: number[]; torque: number[]; angle: number[] };
const KEPT = 'orthotorq-device';
const CUT = 'The device was cut off before the pull ended. Nothing of it was saved: pull again.';

export class Meter {
  devices = $state.raw<Device[]>([]);
  joints = $state.raw<{ id: string; name: string }[]>([]);
  connected = $state.raw<Device | null>(null);
  /** What the simulated joint has. */
  joint = $state('none');
  measuring = $state(false);
  failed = $state('');
  curve = $state.raw<Part>({ seconds: [], torque: [], angle: [] });
  result = $state.raw<Result | null>(null);
  /** The bolt of the last measurement, in words, and what it was to reach [N·m]. */
  label = $state('');
  wanted = $state<number | null>(null);
  /** The measurement that a typed or tapped answer takes with it, and its step. */
  private taken = $state.raw<{ id: string; step: string } | null>(null);
  private stream: EventSource | undefined;

  constructor(
    readonly run: Run,
    readonly answer: (answer: string, more: Record<string, unknown>) => Promise<void>,
    readonly read: (value: string) => void,
  ) {}

  async load(): Promise<void> {
    const { data } = await api.GET('/api/v1/devices').catch(() => ({ data: undefined }));
    this.devices = data?.devices ?? [];
    this.joints = data?.joints ?? [];
    this.connected = this.devices.find((d) => d.id === sessionStorage.getItem(KEPT)) ?? null;
  }

  connect(id: string): void {
    this.connected = this.devices.find((d) => d.id === id) ?? null;
    if (id) sessionStorage.setItem(KEPT, id);
    else sessionStorage.removeItem(KEPT);
  }

  /** Whether the connected device may answer the step that stands there. */
  readonly fits = $derived.by(
    () => !!this.connected && (this.run.step?.devices ?? []).includes(this.connected.answers),
  );

  /** What a measurement adds to an answer that a person gives. */
  with(step: string): Record<string, unknown> {
    return this.taken?.step === step ? { pull: this.taken.id } : {};
  }

  /** Measure at the open step. */
  measure = async (): Promise<void> => {
    const [step, device] = [this.run.step, this.connected];
    if (!step || !device || this.measuring) return;
    await this.begin(step, () =>
      api.POST('/api/v1/runs/{id}/pulls', {
        params: { path: { id: this.run.id } },
        body: { step: step.step, device: device.id, joint: this.joint },
      }),
    );
  };

  /** A pull that a real wrench wrote into a file of raw readings. */
  fromFile = async (file: File): Promise<void> => {
    const step = this.run.step;
    if (!step || this.measuring) return;
    await this.begin(step, () =>
      api.POST('/api/v1/runs/{id}/pulls/raw', {
        params: { path: { id: this.run.id }, query: { step: step.step } },
        body: file as never,
        bodySerializer: (body) => body as never,
        headers: { 'Content-Type': 'text/csv' },
      }),
    );
  };

  private async begin(
    step: Schemas['Instruction'],
    ask: () => Promise<{ data?: Schemas['PullView']; error?: unknown }>,
  ): Promise<void> {
    this.failed = '';
    this.result = this.taken = null;
    this.curve = { seconds: [], torque: [], angle: [] };
    this.measuring = true;
    try {
      const made = must(await ask());
      this.label = step.label ? `bolt ${step.label}` : step.text;
      this.wanted = made.wanted_Nm;
      this.listen(made.id, step.step);
    } catch (problem) {
      this.measuring = false;
      this.failed = problem instanceof Error ? problem.message : problemText(problem);
    }
  }

  private listen(pull: string, step: string): void {
    const stream = (this.stream = new EventSource(`/api/v1/pulls/${pull}/stream`));
    stream.addEventListener('samples', (event) => {
      const part = JSON.parse((event as MessageEvent<string>).data) as Part;
      const { seconds, torque, angle } = this.curve;
      this.curve = {
        seconds: [...seconds, ...part.seconds],
        torque: [...torque, ...part.torque],
        angle: [...angle, ...part.angle],
      };
    });
    stream.addEventListener('result', (event) => {
      this.close();
      void this.ended(pull, step, JSON.parse((event as MessageEvent<string>).data) as Result);
    });
    // it would begin again by itself: a pull is made once
    stream.onerror = () => {
      if (this.stream !== stream) return;
      this.close();
      this.failed = CUT;
    };
  }

  private async ended(pull: string, step: string, result: Result): Promise<void> {
    this.result = result;
    if (this.run.step?.step !== step) {
      this.failed = 'The step was answered meanwhile: this measurement belongs to none.';
    } else if (result.answer) {
      const reading = { torque: result.torque, angle: result.angle };
      await this.answer(result.answer, { reading, pull });
    } else {
      this.taken = { id: pull, step };
      if (result.readings[0]) this.read(result.readings[0]);
    }
  }

  close(): void {
    this.measuring = false;
    const open = this.stream;
    this.stream = undefined;
    open?.close();
  }
}
