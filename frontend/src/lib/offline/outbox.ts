/** Events wait here from the tap until the server has answered: a reload or a lost network loses none. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Schemas } from '../api/client';
import { deviceId, uuid7 } from './device';

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
}
/** An event that waits here, with the bolts it is about and how they look after it: known on this device alone. */
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
  events: { key: [string, number]; value: Waiting };
  counters: { key: string; value: number };
  runs: { key: string; value: unknown };
  /** Photos by the id of the event that shows them, until the server has them. */
  pictures: { key: string; value: Blob };
}

let opened: Promise<IDBPDatabase<Shape>> | undefined;

function database(): Promise<IDBPDatabase<Shape>> {
  opened ??= openDB<Shape>('orthotorq', 3, {
    upgrade(db, before) {
      if (before < 1) {
        db.createObjectStore('events', { keyPath: ['run', 'device_sequence'] });
        db.createObjectStore('counters');
      }
      if (before < 2) db.createObjectStore('runs');
      db.createObjectStore('pictures');
    },
  });
  return opened;
}

/** Keep a new event, numbered after the last of this device in this run; with a picture, which is sent before it. */
export async function put(
  run: string,
  step: string,
  kind: string,
  payload: Record<string, unknown>,
  lease: number,
  lastSeen: number,
  about: Pick<Waiting, 'places' | 'leaves'>,
  picture?: Blob,
): Promise<Waiting> {
  const db = await database();
  const work = db.transaction(['events', 'counters', 'pictures'], 'readwrite');
  const number = ((await work.objectStore('counters').get(run)) ?? 0) + 1;
  const event: Waiting = {
    ...about,
    id: uuid7(),
    run,
    step,
    kind,
    payload,
    device: deviceId(),
    device_sequence: number,
    device_time: new Date().toISOString(),
    lease,
    last_seen: lastSeen,
  };
  await work.objectStore('counters').put(number, run);
  await work.objectStore('events').put(event);
  if (picture) await work.objectStore('pictures').put(picture, event.id);
  await work.done;
  return event;
}

/** Events of a run that the server has not answered, in order. */
export async function waiting(run: string): Promise<Waiting[]> {
  return (await database()).getAll('events', IDBKeyRange.bound([run, 0], [run, Infinity]));
}

/** The picture that has to be sent before an event, if there is one. */
export async function pictureOf(event: OutEvent): Promise<Blob | undefined> {
  return event.kind === 'photo' ? (await database()).get('pictures', event.id) : undefined;
}

/** The picture of an event is done with: the event stays, changed to name it, or to say why there is none. */
export async function pictureDone(event: Waiting): Promise<void> {
  const work = (await database()).transaction(['events', 'pictures'], 'readwrite');
  await work.objectStore('events').put(event);
  await work.objectStore('pictures').delete(event.id);
  await work.done;
}

/** Forget an event that the server has answered. */
export async function answered(event: OutEvent): Promise<void> {
  await (await database()).delete('events', [event.run, event.device_sequence]);
}

/** Keep a run as the server last told it, so that it opens without network. */
export async function keepRun(run: string, view: unknown): Promise<void> {
  await (await database()).put('runs', view, run);
}

/** The run as it was last known here. */
export async function keptRun(run: string): Promise<unknown> {
  return (await database()).get('runs', run);
}
