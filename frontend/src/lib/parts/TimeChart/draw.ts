/** Lines over time, drawn by uPlot in the colours of the theme. */
import uPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';

export interface TimeSeries {
  values: (number | null)[];
  look: 'line' | 'points' | 'limit';
}
export interface TimeData {
  /** ISO times, the earliest first. */
  times: string[];
  series: TimeSeries[];
  /** How a figure on the axis is written. */
  label: (value: number) => string;
  /** The axis reaches as far up as down. */
  symmetric?: boolean;
}

/** Draw in an element; the answer lets go of it. */
export function draw(element: HTMLElement, data: TimeData): () => void {
  const colour = (name: string) => getComputedStyle(element).getPropertyValue(name).trim();
  const size = () => ({
    width: Math.max(120, element.clientWidth),
    height: Math.max(90, element.clientHeight),
  });
  const all = data.series.flatMap((one) => one.values).filter((value) => value !== null);
  const most = Math.max(...all.map(Math.abs), 1e-9) * 1.15;
  const axis = {
    stroke: colour('--soft'),
    grid: { stroke: colour('--hairline'), width: 1 },
    ticks: { stroke: colour('--hairline') },
    font: '13px Atkinson, sans-serif',
  };
  const LOOKS: Record<TimeSeries['look'], uPlot.Series> = {
    line: {
      stroke: colour('--ink'),
      width: 2,
      points: { show: true, size: 7, fill: colour('--ink') },
    },
    points: {
      stroke: colour('--soft'),
      width: 0,
      points: { show: true, size: 6 },
      paths: () => null,
    },
    limit: { stroke: colour('--stop'), width: 1, dash: [6, 4], points: { show: false } },
  };
  const plot = new uPlot(
    {
      ...size(),
      legend: { show: false },
      cursor: { show: false },
      scales: data.symmetric ? { y: { range: () => [-most, most] } } : {},
      axes: [
        { ...axis, size: 34 },
        { ...axis, size: 62, values: (_u, at) => at.map((value) => data.label(value)) },
      ],
      series: [{}, ...data.series.map((one) => LOOKS[one.look])],
    },
    [
      data.times.map((time) => new Date(time).getTime() / 1000),
      ...data.series.map((one) => one.values),
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
