<script lang="ts">
  import { sentence } from '#lib/sentence.ts';
  import type { Schemas } from '../../api/client';
  import Fold from '../Fold.svelte';
  import Word from '../Word.svelte';
  import Finding from './Finding.svelte';

  interface Props {
    /** Findings in the order of their weight. */
    findings: Schemas['FindingOut'][];
    /** Waive one, with a reason; without it nothing can be waived here. */
    onwaive?: (finding: Schemas['FindingOut'], reason: string) => void;
    onunwaive?: (finding: Schemas['FindingOut']) => void;
    /** Close one by its act. */
    onact?: (finding: Schemas['FindingOut']) => void;
    /** Go to where one is mended. */
    onopen?: (finding: Schemas['FindingOut']) => void;
    /** The one that asks for its reason. */
    asking?: Schemas['FindingOut'] | null;
    /** Whether a key has led to one. */
    oncurrent?: (finding: Schemas['FindingOut']) => boolean;
  }
  let { findings, onwaive, onunwaive, onact, onopen, asking = null, oncurrent }: Props = $props();
  const bound = (finding: Schemas['FindingOut']) => ({
    onwaive: onwaive && ((reason: string) => onwaive(finding, reason)),
    onunwaive: onunwaive && (() => onunwaive(finding)),
    onact: onact && (() => onact(finding)),
    onopen: onopen && (() => onopen(finding)),
    asking: finding === asking,
    current: oncurrent?.(finding) ?? false,
  });
  const open = $derived(findings.filter((f) => !f.waived && f.severity !== 'note'));
  const notes = $derived(findings.filter((f) => !f.waived && f.severity === 'note'));
  const waived = $derived(findings.filter((f) => f.waived));
  const key = (f: Schemas['FindingOut']) => f.code + f.where + f.text;
</script>

<ul class="grid" aria-label="Findings">
  {#each open as finding (key(finding))}
    <li>
      <Finding {finding} {...bound(finding)} />
    </li>
  {:else}
    <li class="soft">No errors, no warnings.</li>
  {/each}
  {#each waived as finding (key(finding))}<li><Finding {finding} {...bound(finding)} /></li>{/each}
  {#if open.length && onact}<li class="pt-1 text-sm">
      <Word href="/help/plan-your-first-joint#findings">How to settle errors and warnings</Word>
    </li>{/if}
  {#if notes.length}
    <li>
      <Fold title={sentence('findings.notes', { count: notes.length })} open={notes.length < 3}>
        {#each notes as finding (key(finding))}<Finding {finding} />{/each}
      </Fold>
    </li>
  {/if}
</ul>
