/**
 * The tightening of a result step by step: which pass comes when, and how the bolts stand after
 * each step.
 */
import type { Schemas } from '#lib/api/client.ts';

export interface PassSteps {
  stage: string;
  pass: Schemas['PassOut'];
}
export interface At {
  looks: Record<string, Schemas['LookOut']>;
  next: string[];
  /** Which of the steps the pass is; none at the end of the work. */
  index: number;
}

/** Whether something limited to variants, where it is, belongs to these. */
const has = (limited: string[] | undefined, way: string[]) =>
  !limited?.length || limited.some((v) => way.includes(v));

/**
 * The variants in which a plan is drawn: the first of each choice, and of one choice those of the
 * group that is looked at.
 */
export function wayOf(result: Schemas['Result'], group: string): string[] {
  const variants = result.variants ?? [];
  const looked = result.groups.find((g) => g.id === group)?.variants ?? [];
  const choices = [...new Set(variants.map((v) => v.choice))];
  return choices.flatMap((choice) => {
    const own = variants.filter((v) => v.choice === choice).map((v) => v.id);
    return [own.find((v) => looked.includes(v)) ?? own[0]!];
  });
}

/** The groups that are drawn in a way. */
export function groupsIn(result: Schemas['Result'], way: string[]): Schemas['GroupOut'][] {
  return result.groups.filter((g) => has(g.variants, way));
}

/**
 * Every pass of an occasion that turns bolts, in work order; what is done only again is not drawn.
 */
export function stepsOf(
  result: Schemas['Result'],
  occasion: string,
  way: string[] = wayOf(result, ''),
): PassSteps[] {
  return result.stages
    .filter((stage) => stage.occasions.includes(occasion) && !stage.only_again)
    .flatMap((stage) =>
      stage.passes
        .filter((pass) => pass.order.length && pass.leaves && has(pass.variants, way))
        .map((pass) => ({ stage: stage.id, pass })),
    );
}

/** How the bolts stand after a step, counted over all passes; null is the end of the work. */
export function looksAt(steps: PassSteps[], at: number | null): At {
  const looks: At['looks'] = {};
  let left = at ?? Infinity;
  for (const [index, { pass }] of steps.entries())
    for (const move of pass.order) {
      for (const place of move) looks[place] = pass.leaves!;
      if (left-- === 0) return { looks, next: move, index };
    }
  return { looks, next: [], index: -1 };
}
