import type { CableLine, Plan, SizeLine, View } from '../api/client';
import { type Coat, reaches } from './coat';
import classes from './Plate.module.css';

interface PlateProps {
  plan: Plan;
  coat: Coat;
  zone?: string;
  marked: string[];
  onZone: (zone?: string) => void;
  /** A picture only: nothing to pick, no captions. */
  bare?: boolean;
  /** The key of the dimension that is worked on: it is drawn at its place. */
  size?: string;
  /** Cables are drawn. */
  cables?: boolean;
  /** Takes clicks on a view instead of picking a face; model mm in the view's frame. */
  onPick?: (side: View['side'], x: number, y: number) => void;
  /** The first of two ends that are being picked. */
  ends?: { side: View['side']; at: [number, number] };
  /** What is drawn over a view, in its frame: handles of what is being edited. */
  over?: (view: View) => React.ReactNode;
  /** The part of the sheet that is shown, model mm: x, y, width, height. */
  box?: [number, number, number, number];
  /** A dimension's words are in the way of what is worked on. */
  quiet?: boolean;
}

const names: Record<View['side'], string> = {
  left: 'Left side',
  right: 'Right side',
  top: 'From above',
  front: 'Front',
  rear: 'Rear',
};

const closed = (ring: number[]) => {
  let d = '';
  for (let i = 0; i + 1 < ring.length; i += 2) {
    d += `${i ? 'L' : 'M'}${ring[i]} ${ring[i + 1]}`;
  }
  return `${d}Z`;
};

/** All of the sheet, with a little room about it. */
export function whole(plan: Plan): [number, number, number, number] {
  const margin = plan.sheet.width * 0.005;
  return [-margin, -margin, plan.sheet.width + 2 * margin, plan.sheet.height + 2 * margin];
}

const segments = (ends: number[]) => {
  let d = '';
  for (let i = 0; i + 3 < ends.length; i += 4) {
    d += `M${ends[i]} ${ends[i + 1]}L${ends[i + 2]} ${ends[i + 3]}`;
  }
  return d;
};

/** The vehicle in five views at one scale; neighbouring faces meet. */
export function Plate(props: PlateProps) {
  const { plan, onZone, bare, size, cables, onPick, ends, over, quiet } = props;
  const box = props.box ?? whole(plan);
  const sized = plan.sizes.find((l) => l.key === size && l.drawn);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with faces to pick is a group, not a fieldset
    <svg
      className={classes.plate}
      data-bare={bare || undefined}
      viewBox={box.join(' ')}
      role="group"
      aria-label={`${plan.name} in five views, ${plan.scale}`}
      onClick={() => onZone(undefined)}
      onKeyDown={(e) => e.key === 'Escape' && onZone(undefined)}
    >
      {plan.views.map((view) => (
        <g
          key={view.side}
          transform={`translate(${view.x} ${view.y})`}
          aria-label={names[view.side]}
          data-view={view.side}
          className={onPick ? classes.picking : undefined}
          onClickCapture={(e) => {
            const m = e.currentTarget.getScreenCTM();
            if (onPick && m) {
              e.stopPropagation();
              const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
              onPick(view.side, Math.round(p.x * 100) / 100, Math.round(p.y * 100) / 100);
            }
          }}
        >
          {onPick && <rect width={view.width} height={view.height} fill="transparent" />}
          <ViewShapes {...props} view={view} />
          {!bare && (
            <text
              className={classes.caption}
              x={view.width / 2}
              y={-plan.sheet.width * 0.012}
              fontSize={plan.sheet.width * 0.017}
            >
              {names[view.side]}
            </text>
          )}
          {(quiet ? [] : view.dimensions)
            ?.filter((d) => !sized || sized.name === d.name)
            .map((d) => (
              <DimensionLine key={d.name} d={d} unit={plan.sheet.width} on={sized?.name === d.name} />
            ))}
          {cables &&
            plan.cables.flatMap((c) =>
              c.drawn
                .filter((d) => d.side === view.side && d.points.length > 0)
                .map((d) => <CableOnView key={c.id} name={c.name} path={d} unit={plan.sheet.width} />),
            )}
          {ends?.side === view.side && (
            <circle cx={ends.at[0]} cy={ends.at[1]} r={plan.sheet.width / 160} className={classes.end} />
          )}
          {over?.(view)}
        </g>
      ))}
      {/* Over all views, so that no neighbour covers its words. */}
      {sized && !sized.fixed && <SizeOnView line={sized} plan={plan} />}
    </svg>
  );
}

function ViewShapes({ view, plan, coat, zone, marked, onZone }: PlateProps & { view: View }) {
  const line = plan.sheet.width / 1400;
  return view.shapes.map((shape, i) => {
    const metal = shape.zone.endsWith('.track');
    const rubber = shape.zone.endsWith('.rubber');
    const fill = metal
      ? 'var(--metal)'
      : rubber
        ? 'var(--rubber)'
        : coat.colours > 0
          ? plan.colours[0]?.hex
          : coat.ground;
    const picked = shape.zone === zone;
    const outline = shape.rings.map(closed).join('');
    return (
      // biome-ignore lint/a11y/useSemanticElements: a face of a drawing cannot be a button element
      <g
        // biome-ignore lint/suspicious/noArrayIndexKey: the order of faces is the drawing
        key={i}
        className={classes.face}
        role="button"
        tabIndex={-1}
        aria-label={shape.zone}
        data-zone={shape.zone}
        data-picked={picked || undefined}
        data-marked={marked.includes(shape.zone) || undefined}
        strokeWidth={line}
        onClick={(e) => {
          e.stopPropagation();
          onZone(picked ? undefined : shape.zone);
        }}
        onKeyDown={(e) => e.key === 'Enter' && onZone(shape.zone)}
      >
        <title>{shape.zone}</title>
        {/* A hair in its own colour closes the seams between strips of a round shape. */}
        <path d={outline} fill={fill} stroke={fill} strokeWidth={line / 2} />
        {!metal &&
          !rubber &&
          shape.patches
            ?.filter((p) => p.colour < coat.colours)
            .map((p, k) => (
              <path
                // biome-ignore lint/suspicious/noArrayIndexKey: the order of regions is the painting order
                key={k}
                className={classes.patch}
                d={p.rings.map(closed).join('')}
                fill={plan.colours[p.colour]?.hex}
                fillOpacity={p.opacity}
                fillRule="evenodd"
              />
            ))}
        {!metal &&
          coat.over
            .filter((o) => reaches(o.zones, shape.zone))
            .map((o, k) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the order of layers is the drawing
              <path key={k} className={classes.patch} d={outline} fill={o.hex} fillOpacity={o.strength} />
            ))}
        {/* Faces that look down lie in shade, so that the body reads as a body. */}
        {!metal && <path className={classes.patch} d={outline} fill="#000" fillOpacity={0.2 * (1 - shape.light)} />}
        {picked && <path className={classes.patch} d={outline} fill="var(--ember)" fillOpacity={0.35} />}
        {shape.fine && <path className={classes.edge} d={segments(shape.fine)} strokeWidth={line * 0.35} />}
        {shape.plain && <path className={classes.edge} d={segments(shape.plain)} strokeWidth={line * 0.8} />}
        {shape.heavy && <path className={classes.edge} d={segments(shape.heavy)} strokeWidth={line * 1.7} />}
      </g>
    );
  });
}

/** The dimension that is worked on, over the drawing and large. */
function SizeOnView({ line, plan }: { line: SizeLine; plan: Plan }) {
  const unit = plan.sheet.width;
  const view = plan.views.find((v) => v.side === line.drawn?.side);
  const [x0 = 0, y0 = 0] = line.drawn?.from ?? [];
  const [x1 = 0, y1 = 0] = line.drawn?.to ?? [];
  const long = Math.hypot(x1 - x0, y1 - y0) || 1;
  const [ux, uy] = [((x1 - x0) / long) * unit * 0.008, ((y1 - y0) / long) * unit * 0.008];
  const ticks = [
    [x0, y0],
    [x1, y1],
  ].map(([x = 0, y = 0]) => `M${x - uy} ${y + ux}L${x + uy} ${y - ux}`);
  return (
    <g
      className={classes.sizing}
      transform={`translate(${view?.x ?? 0} ${view?.y ?? 0})`}
      aria-label={`${line.name}: ${line.model} on the model`}
    >
      <path d={`M${x0} ${y0}L${x1} ${y1}${ticks.join('')}`} strokeWidth={unit / 420} />
      <text
        x={(x0 + x1) / 2}
        y={(y0 + y1) / 2 + unit * 0.028}
        fontSize={unit * 0.021}
        textAnchor="middle"
        strokeWidth={unit / 95}
      >
        {line.model}
        {line.kit ? ` · kit ${line.kit.typed}` : ''}
      </text>
    </g>
  );
}

function CableOnView({ name, path, unit }: { name: string; path: CableLine['drawn'][number]; unit: number }) {
  const { points, hidden } = path;
  let d = '';
  for (let i = 0; i + 1 < points.length; i += 2) {
    d += `${i ? 'L' : 'M'}${points[i]} ${points[i + 1]}`;
  }
  return (
    <g className={classes.cable} aria-label={`Path of ${name}`} data-hidden={hidden || undefined}>
      <path d={d} strokeWidth={unit / 300} strokeLinejoin="round" />
      {points.map((x, i) =>
        i % 2 || hidden ? null : (
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is its place in the path
          <circle key={i} cx={x} cy={points[i + 1]} r={unit / 320} />
        ),
      )}
    </g>
  );
}

type DimensionOf = NonNullable<View['dimensions']>[number];

function DimensionLine({ d, unit, on }: { d: DimensionOf; unit: number; on?: boolean }) {
  const [x0 = 0, y0 = 0] = d.from;
  const [x1 = 0, y1 = 0] = d.to;
  const upright = Math.abs(x1 - x0) < Math.abs(y1 - y0);
  const off = unit * 0.014;
  const size = unit * 0.017;
  const [dx, dy] = upright ? [off, 0] : [0, off];
  const tick = unit * 0.006;
  const middle = [(x0 + x1) / 2 + dx, (y0 + y1) / 2 + dy] as const;
  return (
    <g
      className={classes.dimension}
      data-on={on || undefined}
      strokeWidth={unit / 1600}
      aria-label={`${d.name}: ${d.real} real, ${d.model} on the model`}
    >
      <path
        d={`M${x0 + dx} ${y0 + dy}L${x1 + dx} ${y1 + dy}${
          upright
            ? `M${x0 + dx - tick} ${y0}h${2 * tick}M${x1 + dx - tick} ${y1}h${2 * tick}`
            : `M${x0} ${y0 + dy - tick}v${2 * tick}M${x1} ${y1 + dy - tick}v${2 * tick}`
        }`}
      />
      <text
        x={middle[0]}
        y={middle[1]}
        fontSize={size}
        textAnchor="middle"
        transform={
          upright ? `rotate(-90 ${middle[0]} ${middle[1]}) translate(0 ${size * 1.1})` : `translate(0 ${size * 1.15})`
        }
      >
        <tspan className={classes.modelSize}>{d.model}</tspan>
        <tspan className={classes.realSize}> ({d.real} real)</tspan>
      </text>
    </g>
  );
}
