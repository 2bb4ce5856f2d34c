/** The error of each check in percent over time, drawn by uPlot in the colours of the theme: mean, worst, and the limit. */
import uPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';
import type { Schemas } from '#lib/api/client.ts';

/** Draw the checks in an element; the answer lets go of it. */
export function draw(element: HTMLElement, checks: Schemas['CheckView'][]): () => void {
  const colour = (name: string) => getComputedStyle(element).getPropertyValue(name).trim();
  const inOrder = [...checks].reverse();
  const column = (of: (check: Schemas['CheckView']) => number | null | undefined) =>
    inOrder.map((check) => (of(check) ?? 0) * 100);
  const size = () => ({ width: Math.max(120, element.clientWidth), height: Math.max(90, element.clientHeight) });
  const limit = column((check) => check.limit);
  const most = Math.max(...limit, ...column((check) => check.worst).map(Math.abs)) * 1.15;
  const axis = {
    stroke: colour('--soft'),
    grid: { stroke: colour('--hairline'), width: 1 },
    ticks: { stroke: colour('--hairline') },
    font: '13px Atkinson, sans-serif',
  };
  const bound = { stroke: colour('--stop'), width: 1, dash: [6, 4], points: { show: false } };
  const plot = new uPlot(
    {
      ...size(),
      legend: { show: false },
      cursor: { show: false },
      scales: { y: { range: () => [-most, most] } },
      axes: [
        { ...axis, size: 34 },
        { ...axis, size: 58, values: (_u, at) => at.map((v) => `${v > 0 ? '+' : ''}${v} %`) },
      ],
      series: [
        {},
        { stroke: colour('--ink'), width: 2, points: { show: true, size: 8, fill: colour('--ink') } },
        { stroke: colour('--soft'), width: 0, points: { show: true, size: 6 }, paths: () => null },
        bound,
        bound,
      ],
    },
    [
      inOrder.map((check) => new Date(check.at).getTime() / 1000),
      column((check) => check.error),
      column((check) => check.worst),
      limit,
      limit.map((v) => -v),
    ],
    element,
  );
  const resized = new ResizeObserver(() => plot.setSize(size()));
  resized.observe(element);
  return () => {
    resized.disconnect();
    plot.destroy();
  };
}
