/** The tightening of a result step by step: which pass comes when, and how the bolts stand after each step. */
import type { Schemas } from '#lib/api/client.ts';

export interface PassSteps {
  stage: string;
  pass: Schemas['PassOut'];
}
export interface At {
  looks: Record<string, Schemas['LookOut']>;
  next: string[];
  pass: Schemas['PassOut'] | null;
}

/** Every pass of an occasion that turns bolts, in work order. */
export function stepsOf(result: Schemas['Result'], occasion: string): PassSteps[] {
  return result.stages
    .filter((stage) => stage.occasions.includes(occasion))
    .flatMap((stage) =>
      stage.passes.filter((pass) => pass.order.length && pass.leaves).map((pass) => ({ stage: stage.id, pass })),
    );
}

/** How the bolts stand after a step, counted over all passes; null is the end of the work. */
export function looksAt(steps: PassSteps[], at: number | null): At {
  const looks: At['looks'] = {};
  let left = at ?? Infinity;
  for (const { pass } of steps)
    for (const move of pass.order) {
      for (const place of move) looks[place] = pass.leaves!;
      if (left-- === 0) return { looks, next: move, pass };
    }
  return { looks, next: [], pass: null };
}
