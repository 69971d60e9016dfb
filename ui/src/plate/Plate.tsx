import { useEffect, useRef, useState } from 'react';
import type { CableLine, Plan, SizeLine, View } from '../api/client';
import classes from './Plate.module.css';
import { type Box, useDetails, useDrawing, usePictures } from './usePlate';

interface PlateProps {
  plan: Plan;
  /** What it shows, as a step names it; the looks that may be wanted next. */
  look: string;
  near: string[];
  /** Another look at the left of a seam, model mm from the left of the sheet. */
  held?: { look: string; seam: number };
  /** Told once the pictures of a look are here. */
  onShown?: (look: string) => void;
  zone?: string;
  marked: string[];
  onZone: (zone?: string) => void;
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
  box?: Box;
  /** A dimension's words are in the way of what is worked on. */
  quiet?: boolean;
}

const none: string[] = [];

/** The views, as they are called. */
export const viewNames: Record<View['side'], string> = {
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
export function whole(plan: Plan): Box {
  const margin = plan.sheet.width * 0.005;
  return [-margin, -margin, plan.sheet.width + 2 * margin, plan.sheet.height + 2 * margin];
}

/** The vehicle in five views at one scale; neighbouring faces meet. */
export function Plate(props: PlateProps) {
  const { plan, onZone, size, cables, onPick, ends, over, quiet } = props;
  const box = props.box ?? whole(plan);
  const sized = plan.sizes.find((l) => l.key === size && l.drawn);
  const [frame, wide] = useWidth();
  const shown = usePictures(plan, props.look, props.near, wide);
  const { held, onShown } = props;
  const beside = usePictures(plan, held?.look ?? props.look, none, wide);
  useEffect(() => {
    if (shown) {
      onShown?.(shown.look);
    }
  }, [shown, onShown]);
  const details = useDetails(plan, shown, box, wide);
  const drawing = useDrawing(plan);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing with faces to pick is a group, not a fieldset
    <svg
      ref={frame}
      className={classes.plate}
      viewBox={box.join(' ')}
      role="group"
      aria-label={`${plan.name} in five views, ${plan.scale}`}
      data-look={shown?.look}
      onClick={() => onZone(undefined)}
      onKeyDown={(e) => e.key === 'Escape' && onZone(undefined)}
    >
      {plan.views.map((view) => (
        <g
          key={view.side}
          transform={`translate(${view.x} ${view.y})`}
          aria-label={viewNames[view.side]}
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
          {shown && <Picture url={shown.urls[view.side]} box={[0, 0, view.width, view.height]} px={shown.px} />}
          {held && beside && (
            <>
              <clipPath id={`held-${view.side}`}>
                <rect x={box[0] - view.x} y={box[1] - view.y} width={Math.max(held.seam - box[0], 0)} height={box[3]} />
              </clipPath>
              <g clipPath={`url(#held-${view.side})`}>
                <rect width={view.width} height={view.height} className={classes.ground} />
                <Picture url={beside.urls[view.side]} box={[0, 0, view.width, view.height]} px={beside.px} />
              </g>
            </>
          )}
          {(held ? [] : details)
            .filter((d) => d.side === view.side)
            .map((d) => (
              <image
                key={d.url}
                href={d.url}
                x={d.box[0]}
                y={d.box[1]}
                width={d.box[2]}
                height={d.box[3]}
                className={classes.picture}
              />
            ))}
          {drawing.data?.views
            .find((v) => v.side === view.side)
            ?.zones.map((z) => (
              <ZoneOnView key={z.zone} {...props} zone={z} picked={z.zone === props.zone} />
            ))}
          <text
            className={classes.caption}
            x={view.width / 2}
            y={-plan.sheet.width * 0.012}
            fontSize={plan.sheet.width * 0.017}
          >
            {viewNames[view.side]}
          </text>
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
      {held && <path d={`M${held.seam} ${box[1]}v${box[3]}`} className={classes.seam} />}
      {/* Over all views, so that no neighbour covers its words. */}
      {sized && !sized.fixed && <SizeOnView line={sized} plan={plan} />}
    </svg>
  );
}

/** A picture has whole points: its last row and column may reach beyond the view. */
function Picture({ url, box, px }: { url: string; box: Box; px: number }) {
  const [x, y, width, height] = box;
  return (
    <image
      href={url}
      x={x}
      y={y}
      width={Math.ceil(width * px - 1e-6) / px}
      height={Math.ceil(height * px - 1e-6) / px}
      preserveAspectRatio="none"
      className={classes.picture}
    />
  );
}

/** How wide the plate is on the screen, points. */
function useWidth() {
  const frame = useRef<SVGSVGElement>(null);
  const [wide, setWide] = useState(800);
  useEffect(() => {
    const el = frame.current;
    if (!el) {
      return;
    }
    const watch = new ResizeObserver(([e]) => e && setWide(Math.max(e.contentRect.width, 200)));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return [frame, wide] as const;
}

type DrawnZone = NonNullable<ReturnType<typeof useDrawing>['data']>['views'][number]['zones'][number];

function ZoneOnView({
  zone,
  picked,
  marked,
  onZone,
  plan,
}: Omit<PlateProps, 'zone'> & { zone: DrawnZone; picked: boolean }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a face of a drawing cannot be a button element
    <path
      className={classes.zone}
      role="button"
      tabIndex={-1}
      aria-label={zone.words}
      aria-pressed={picked}
      data-zone={zone.zone}
      data-picked={picked || undefined}
      data-marked={marked.includes(zone.zone) || undefined}
      d={zone.rings.map(closed).join('')}
      fillRule="evenodd"
      strokeWidth={plan.sheet.width / 900}
      onClick={(e) => {
        e.stopPropagation();
        onZone(picked ? undefined : zone.zone);
      }}
      onKeyDown={(e) => e.key === 'Enter' && onZone(zone.zone)}
    >
      <title>{zone.words}</title>
    </path>
  );
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
