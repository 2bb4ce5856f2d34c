<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Fold from '../Fold.svelte';
  import Finding from './Finding.svelte';

  interface Props {
    /** Findings in the order of their weight. */
    findings: Schemas['FindingOut'][];
    /** Take one on, with a reason; without it nothing can be taken on here. */
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

<ul class="grid gap-2" aria-label="Findings">
  {#each open as finding (key(finding))}
    <li>
      <Finding {finding} {...bound(finding)} />
    </li>
  {:else}
    <li class="soft">{notes.length ? 'Nothing that stops or warns.' : 'Nothing found.'}</li>
  {/each}
  {#each waived as finding (key(finding))}<li><Finding {finding} {...bound(finding)} /></li>{/each}
  {#if notes.length}
    <li>
      <Fold title="{notes.length} note{notes.length === 1 ? '' : 's'}" open={notes.length < 3}>
        {#each notes as finding (key(finding))}<Finding {finding} />{/each}
      </Fold>
    </li>
  {/if}
</ul>
