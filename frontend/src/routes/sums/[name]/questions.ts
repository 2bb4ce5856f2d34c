/** How the quick sums are asked: at most five fields each, begun with an example; the rest stands behind “more”. */

export interface Question {
  name: string;
  title: string;
  fields: string[];
  begin: Record<string, string>;
}

const M24 = { thread: 'M24' };
const GRADE = { grade: 'ISO 898-1 8.8' };

export const QUESTIONS: Question[] = [
  {
    name: 'preload',
    title: 'Torque → clamp load',
    fields: ['thread', 'torque', 'mu-thread', 'accuracy', 'grade'],
    begin: { ...M24, torque: '430 N·m', 'mu-thread': '0.10,0.12,0.16', accuracy: '0.04', ...GRADE },
  },
  {
    name: 'torque',
    title: 'Clamp load → torque',
    fields: ['thread', 'preload', 'mu-thread', 'mu-bearing', 'prevailing'],
    begin: { ...M24, preload: '120 kN', 'mu-thread': '0.12' },
  },
  {
    name: 'lubricant',
    title: 'Another lubricant',
    fields: ['thread', 'torque', 'from', 'to'],
    begin: { ...M24, torque: '430 N·m', from: 'dry-steel', to: 'moly-paste' },
  },
  {
    name: 'tool',
    title: 'Adapter and multiplier',
    fields: ['torque', 'length', 'adapter', 'ratio', 'efficiency'],
    begin: { torque: '1700 N·m', length: '750 mm', adapter: '90 mm', ratio: '5', efficiency: '0.9' },
  },
  {
    name: 'scale',
    title: 'Scale reading',
    fields: ['torque', 'mark', 'increment'],
    begin: { torque: '316 N·m', mark: '10 N·m', increment: '2 N·m' },
  },
  {
    name: 'limit',
    title: 'What the bolt allows',
    fields: ['thread', 'grade', 'mu-thread', 'yield-fraction', 'nu'],
    begin: { ...M24, ...GRADE, 'mu-thread': '0.10' },
  },
  {
    name: 'angle',
    title: 'Torque plus angle',
    fields: ['thread', 'grip', 'snug', 'angle', 'mu-thread'],
    begin: { thread: 'M16', ...GRADE, grip: '60 mm', snug: '40 N·m', angle: '30', 'mu-thread': '0.12' },
  },
  {
    name: 'backoff',
    title: 'Back-off',
    fields: ['thread', 'preload', 'flats', 'grip', 'outer-diameter'],
    begin: { thread: 'M30x1.5', preload: '30 kN', flats: '1', grip: '60 mm' },
  },
  {
    name: 'engagement',
    title: 'Engaged thread',
    fields: ['thread', 'grade', 'into', 'length', 'preload'],
    begin: { thread: 'M16', ...GRADE, into: 'aluminium', length: '24 mm' },
  },
  {
    name: 'gasket',
    title: 'Gasket stress',
    fields: ['outside', 'inside', 'bolts', 'preload', 'pressure'],
    begin: { outside: '470 mm', inside: '430 mm', bolts: '16', preload: '128 kN' },
  },
  { name: 'pair', title: 'Is it one figure?', fields: ['first', 'second'], begin: { first: '250 N·m', second: '148 ft·lbf' } },
  { name: 'units', title: 'Units', fields: ['first'], begin: { first: '355 ft-lb' } },
  { name: 'order', title: 'Order', fields: ['kind', 'count', 'start', 'tools', 'group'], begin: { kind: 'cross', count: '16' } },
  {
    name: 'identify',
    title: 'Which thread is it?',
    fields: ['flats', 'outside', 'ten'],
    begin: { flats: '30 mm', ten: '25 mm' },
  },
  { name: 'thread', title: 'Thread', fields: ['thread'], begin: { thread: '1-1/8-8' } },
  { name: 'grade', title: 'Grade', fields: ['grade', 'diameter'], begin: { ...GRADE, diameter: '24 mm' } },
];
