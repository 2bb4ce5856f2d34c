/**
 * Events wait here from the tap until the server has answered: a reload or a lost network loses
 * none. Every one belongs to the person who tapped it: each person has a device id and a count of
 * their own here, so that nobody's taps wait behind, or go out under, somebody else's.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Schemas } from '../api/client';
import { uuid7 } from './device';

export interface OutEvent {
  id: string;
  run: string;
  step: string;
  kind: string;
  payload: Record<string, unknown>;
  device: string;
  device_sequence: number;
  device_time: string;
  lease: number;
  last_seen: number;
  /** Who tapped; missing only on what was kept before taps had owners. */
  person?: string;
}
/**
 * An event that waits here, with the bolts it is about and how they look after it: known on this
 * device alone.
 */
export interface Waiting extends OutEvent {
  places: string[];
  leaves?: Schemas['LookOut'] | null;
}

/** An event as it is sent: without what only this device knows. */
export function asSent(event: Waiting): OutEvent {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- taken out by name
  const { places, leaves, ...sent } = event;
  return sent;
}

interface Shape extends DBSchema {
  taps: { key: string; value: Waiting; indexes: { run: string } };
  /**
   * This device as each person uses it, with the last number used in each run: one record, kept or
   * lost together.
   */
  devices: { key: string; value: { id: string; counts: Record<string, number> } };
  runs: { key: string; value: unknown };
  /** Photos by the id of the event that shows them, until the server has them. */
  pictures: { key: string; value: Blob };
}

let opened: Promise<IDBPDatabase<Shape>> | undefined;

function database(): Promise<IDBPDatabase<Shape>> {
  opened ??= openDB<Shape>('orthotorq-taps', 1, {
    upgrade(db) {
      db.createObjectStore('taps', { keyPath: 'id' }).createIndex('run', 'run');
      db.createObjectStore('devices');
      db.createObjectStore('runs');
      db.createObjectStore('pictures');
    },
  });
  return opened;
}

/** This device as a person uses it. */
export async function deviceOf(person: string): Promise<string> {
  const work = (await database()).transaction('devices', 'readwrite');
  const known = await work.store.get(person);
  const device = known ?? { id: `device-${uuid7()}`, counts: {} };
  if (!known) await work.store.put(device, person);
  await work.done;
  return device.id;
}

/** What an event is about, beside what is sent. */
type About = Pick<Waiting, 'places' | 'leaves'>;

/**
 * Keep a new event of a person, numbered after their last in this run; with a picture, which is
 * sent before it.
 */
export async function put(
  person: string,
  said: Pick<OutEvent, 'run' | 'step' | 'kind' | 'payload' | 'lease' | 'last_seen'>,
  about: About,
  picture?: Blob,
): Promise<Waiting> {
  const work = (await database()).transaction(['taps', 'devices', 'pictures'], 'readwrite');
  const device = (await work.objectStore('devices').get(person)) ?? {
    id: `device-${uuid7()}`,
    counts: {},
  };
  const number = (device.counts[said.run] ?? 0) + 1;
  device.counts[said.run] = number;
  const event: Waiting = {
    ...about,
    ...said,
    id: uuid7(),
    person,
    device: device.id,
    device_sequence: number,
    device_time: new Date().toISOString(),
  };
  await work.objectStore('devices').put(device, person);
  await work.objectStore('taps').put(event);
  if (picture) await work.objectStore('pictures').put(picture, event.id);
  await work.done;
  return event;
}

/**
 * Events of a run that the server has not answered, in the order of their taps: those of a person,
 * and how many of others.
 */
export async function waiting(
  run: string,
  person: string,
): Promise<{ own: Waiting[]; others: number }> {
  const every = await (await database()).getAllFromIndex('taps', 'run', run);
  const own = every
    .filter((e) => e.person === person)
    .sort((a, b) => a.device_sequence - b.device_sequence);
  return { own, others: every.length - own.length };
}

/** Runs in which taps of a person wait, with how many. */
export async function waitingOf(person: string): Promise<Record<string, number>> {
  const out: Record<string, number> = {};
  for (const event of await (await database()).getAll('taps'))
    if (event.person === person) out[event.run] = (out[event.run] ?? 0) + 1;
  return out;
}

/**
 * The server counts otherwise, as when this device has lost its count: what waits is numbered from
 * there on.
 */
export async function renumber(run: string, person: string, from: number): Promise<void> {
  const { own } = await waiting(run, person);
  const work = (await database()).transaction(['taps', 'devices'], 'readwrite');
  const device = await work.objectStore('devices').get(person);
  for (const [i, event] of own.entries())
    await work.objectStore('taps').put({ ...event, device_sequence: from + i });
  if (device) {
    device.counts[run] = from + own.length - 1;
    await work.objectStore('devices').put(device, person);
  }
  await work.done;
}

/** The picture that has to be sent before an event, if there is one. */
export async function pictureOf(event: OutEvent): Promise<Blob | undefined> {
  return event.kind === 'photo' ? (await database()).get('pictures', event.id) : undefined;
}

/**
 * The picture of an event is done with: the event stays, changed to name it, or to say why there is
 * none.
 */
export async function pictureDone(event: Waiting): Promise<void> {
  const work = (await database()).transaction(['taps', 'pictures'], 'readwrite');
  await work.objectStore('taps').put(event);
  await work.objectStore('pictures').delete(event.id);
  await work.done;
}

/** Forget an event that the server has answered. */
export async function answered(event: OutEvent): Promise<void> {
  await (await database()).delete('taps', event.id);
}

/** Keep a run as the server last told it, so that it opens without network. */
export async function keepRun(run: string, view: unknown): Promise<void> {
  await (await database()).put('runs', view, run);
}

/** The run as it was last known here. */
export async function keptRun(run: string): Promise<unknown> {
  return (await database()).get('runs', run);
}
