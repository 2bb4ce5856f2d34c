/**
 * The look of the library's components: sizes, corners and weights, in the words of our theme
 * (theme.css).
 */
import type { ThemeConfig } from 'flowbite-svelte';

const FIELD =
  'rounded-[4px] border-rule bg-sheet text-ink px-[0.55rem] py-[0.32rem] text-[0.95rem] min-h-(--field-height) aria-invalid:border-stop aria-invalid:shadow-[inset_3px_0_0_var(--stop)]';

export const theme: ThemeConfig = {
  button: {
    base: 'gap-2 rounded-[5px] border-[1.5px] border-ink px-3.5 py-1 min-h-(--button-height) text-base leading-tight font-semibold text-left no-underline disabled:opacity-55 disabled:cursor-not-allowed cursor-pointer',
  },
  input: { input: FIELD },
  select: { select: FIELD },
  textarea: {
    wrapper: 'rounded-[4px] border-rule bg-sheet',
    base: 'text-base px-2 py-1 text-ink bg-sheet',
  },
  label: 'font-normal leading-tight text-soft',
  helper: 'text-sm leading-tight',
  checkbox: {
    base: 'accent-brine me-0 shrink-0 h-[18px] w-[18px]',
    div: 'gap-2 text-ink text-[0.95rem] min-h-(--box-height)',
  },
  radio: { input: 'accent-brine me-0 shrink-0' },
  table: { table: 'text-ink text-[0.93rem]', div: 'overflow-x-auto' },
  tableHead: 'bg-transparent text-soft text-sm normal-case',
  tableHeadCell: 'px-2 py-1 font-normal',
  tableBodyRow: 'bg-transparent border-hairline align-top',
  tableBodyCell: 'px-2 py-1 whitespace-normal font-normal text-ink',
  alert: 'rounded-[5px] border p-3 text-base text-ink',
  accordion: 'border-0 rounded-none',
  accordionItem: {
    base: 'font-normal',
    button:
      'border-0 group-first:border-t-0 group-first:rounded-none p-0 text-ink font-normal hover:bg-transparent focus:ring-0 cursor-pointer',
    content: 'border-0 p-0',
  },
  breadcrumb: { list: 'space-x-1 md:space-x-1 text-sm' },
  breadcrumbItem: { separator: 'h-4 w-4 text-soft' },
  modal: {
    base: 'bg-sheet text-ink rounded-[6px]',
    header: 'text-lg font-bold text-ink p-4',
    body: 'text-ink p-4',
  },
  navbar: 'border-b bg-sheet px-2.5 sm:px-5 py-0',
  sidebar: { base: 'w-full', div: 'bg-transparent p-0', active: '', nonactive: '' },
  toast: { base: 'border border-brine bg-tint text-ink rounded-[5px] shadow-none max-w-full p-2' },
};

/** A button that reads as a word in a sentence. */
export const WORD =
  'border-0 bg-transparent p-0 min-h-(--word-height) text-[length:inherit] font-semibold text-brine hover:bg-transparent hover:text-brine hover:underline';
