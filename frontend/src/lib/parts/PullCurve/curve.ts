/**
 * Torque over angle, drawn by uPlot in the colours of the theme; several pulls lie over one
 * another.
 */
import uPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';

export interface Line {
  angle: number[];
  torque: number[];
  /** Behind the others, as what is compared with. */
  behind?: boolean;
  /** Not good: drawn in the colour of a stop. */
  bad?: boolean;
}
/** From which angle to which the curve shows what is wrong. */
export interface Evidence {
  from: number;
  to: number;
}
export interface Picture {
  lines: Line[];
  wanted?: number | null;
  evidence?: Evidence | null;
  /** The least of the axes: angle [deg], torque [N·m]. */
  least?: [number, number];
}

const colour = (element: HTMLElement, name: string): string =>
  getComputedStyle(element).getPropertyValue(name).trim();

/** The columns of a picture: angles of all lines on one axis, gaps where a line has none. */
export function columns(lines: Line[]): uPlot.AlignedData {
  const tables = lines
    .filter((l) => l.angle.length)
    .map((l): uPlot.AlignedData => [l.angle, l.torque]);
  return tables.length ? uPlot.join(tables) : [[], []];
}

/** Draw a picture in an element; the answer takes its next ones and lets go of it. */
export function draw(
  element: HTMLElement,
  first: Picture,
): { set: (picture: Picture) => void; end: () => void } {
  let now = first;
  let plot = make();
  const resized = new ResizeObserver(() => plot.setSize(size()));
  resized.observe(element);

  function size() {
    return {
      width: Math.max(120, element.clientWidth),
      height: Math.max(90, element.clientHeight),
    };
  }
  function make(): uPlot {
    const [ink, soft, rule] = [
      colour(element, '--ink'),
      colour(element, '--soft'),
      colour(element, '--hairline'),
    ];
    const axis = {
      stroke: soft,
      grid: { stroke: rule, width: 1 },
      ticks: { stroke: rule },
      font: '13px Atkinson, sans-serif',
    };
    return new uPlot(
      {
        ...size(),
        legend: { show: false },
        cursor: { show: false },
        scales: {
          x: {
            time: false,
            range: (_u, low, high) => [low ?? 0, Math.max(high ?? 0, now.least?.[0] ?? 1)],
          },
          y: { range: top },
        },
        axes: [
          { ...axis, size: 34, values: (_u, at) => at.map((v) => `${v}°`) },
          { ...axis, size: 52 },
        ],
        series: [
          {},
          ...now.lines
            .filter((l) => l.angle.length)
            .map((l) => ({
              spanGaps: true,
              points: { show: false },
              width: l.behind ? 1 : 2,
              stroke: l.bad ? colour(element, '--stop') : l.behind ? soft : ink,
            })),
        ],
        hooks: { drawClear: [under] },
      },
      columns(now.lines),
      element,
    );
  }
  function top(_u: uPlot, _low: number | null, high: number | null): [number, number] {
    return [0, Math.max(high ?? 0, now.wanted ?? 0, now.least?.[1] ?? 1) * 1.06];
  }
  /** Behind the lines: what is to be reached, and where the curve shows what is wrong. */
  function under(u: uPlot): void {
    const { ctx, bbox } = u;
    ctx.save();
    if (now.evidence) {
      const [a, b] = [
        u.valToPos(now.evidence.from, 'x', true),
        u.valToPos(now.evidence.to, 'x', true),
      ];
      ctx.fillStyle = colour(element, '--stop-bg');
      ctx.fillRect(a, bbox.top, Math.max(3, b - a), bbox.height);
    }
    if (now.wanted) {
      const y = u.valToPos(now.wanted, 'y', true);
      ctx.strokeStyle = colour(element, '--brine');
      ctx.setLineDash([6, 5]);
      ctx.lineWidth = 2;
      ctx.beginPath();
      ctx.moveTo(bbox.left, y);
      ctx.lineTo(bbox.left + bbox.width, y);
      ctx.stroke();
    }
    ctx.restore();
  }
  const shape = (picture: Picture) =>
    picture.lines.map((l) => `${!!l.behind}${!!l.bad}${l.angle.length > 0}`).join();
  return {
    set(picture) {
      const other = shape(picture) !== shape(now);
      now = picture;
      if (other) {
        plot.destroy();
        plot = make();
      } else plot.setData(columns(now.lines));
    },
    end() {
      resized.disconnect();
      plot.destroy();
    },
  };
}
