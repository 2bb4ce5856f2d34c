/** The tightening of a result as one row of steps, for the tape and the joint face of the Bench. */
import type { Schemas } from '#lib/api/client.ts';
import type { Band } from '#lib/parts/PassTape/PassTape.svelte';

export interface PassSteps {
  stage: string;
  pass: Schemas['PassOut'];
  band: Band;
}

/** Every pass of the install stages in work order. */
export function stepsOf(result: Schemas['Result']): PassSteps[] {
  return result.stages
    .filter((s) => s.occasions.includes('install'))
    .flatMap((stage) =>
      stage.passes
        .filter((pass) => pass.order.length && pass.do !== 'jack')
        .map((pass) => ({
          stage: stage.id,
          pass,
          band: {
            id: `${stage.id}/${pass.id}/${pass.group}`,
            label: pass.name,
            percent: shown(pass),
            total: pass.order.length,
            done: 0,
          },
        })),
    );
}

/** Height of a pass on the tape: its share of the torque, an angle above its snug torque, an even draw half way. */
function shown(pass: Schemas['PassOut']): number {
  return pass.percent ?? ({ angle: 100, gap_round: 70, feel: 60, back_off: 10 } as Record<string, number>)[pass.do] ?? 0;
}

interface At {
  looks: Record<string, { state: string; percent: number }>;
  next: string[];
  pass: Schemas['PassOut'] | null;
}

/** How the bolts stand after a step, counted over all passes; null is the end of the work. */
export function looksAt(steps: PassSteps[], at: number | null): At {
  const looks: At['looks'] = {};
  let left = at ?? Infinity;
  for (const { pass } of steps) {
    for (const move of pass.order) {
      for (const place of move) {
        const before = looks[place]?.percent ?? 0;
        const percent = pass.do === 'back_off' ? 10 : Math.max(before, shown(pass));
        looks[place] = {
          state: ['hand', 'snug', 'back_off'].includes(pass.do) ? 'hand' : percent >= 100 ? 'full' : 'part',
          percent,
        };
      }
      if (left-- === 0) return { looks, next: move, pass };
    }
  }
  return { looks, next: [], pass: null };
}
