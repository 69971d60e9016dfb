import { type PointerEvent, useRef, useState } from 'react';
import classes from './Measure.module.css';
import type { PhotoWork } from './usePhotoWork';

type Point = [number, number];

const at = (p: number[] | undefined): Point => [p?.[0] ?? 0, p?.[1] ?? 0];

/** The photograph in the plate's place, with the marks on it and a magnifier. */
export function PhotoPlate({ build, work }: { build: string; work: PhotoWork }) {
  const { photo, answer, move, click, placing } = work;
  const picture = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<string>();
  const [looked, setLooked] = useState<{ point: string; at: Point }>();
  const [missing, setMissing] = useState<string>();
  if (!photo) {
    return <p className={classes.empty}>No photograph yet: open one at the right.</p>;
  }
  const url = `/api/builds/${build}/files/${photo.hash}`;
  const place = (e: PointerEvent): Point => {
    const svg = picture.current;
    const m = svg?.getScreenCTM();
    if (!svg || !m) {
      return [0, 0];
    }
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
    const within = (x: number, most: number) => Math.round(Math.min(Math.max(x, 0), most) * 10) / 10;
    return [within(p.x, photo.width), within(p.y, photo.height)];
  };
  const size = photo.width / 100;
  const points: { point: string; at: Point; label: string; name: string }[] = [
    ...(photo.mode === 'corners'
      ? photo.corners.map((c, i) => ({ point: `c${i}`, at: at(c), label: String(i + 1), name: `Corner ${i + 1}` }))
      : [
          { point: 'a', at: at(photo.a), label: 'A', name: 'Known length, end A' },
          { point: 'b', at: at(photo.b), label: 'B', name: 'Known length, end B' },
        ]),
    ...photo.lengths.flatMap((l, i) => [
      { point: `l${i}a`, at: at(l.a), label: '', name: `Length ${i + 1}, first end` },
      { point: `l${i}b`, at: at(l.b), label: '', name: `Length ${i + 1}, other end` },
    ]),
  ];
  const loupe = looked && points.find((p) => p.point === looked.point);
  const focus = held || loupe ? (loupe?.at ?? looked?.at) : undefined;
  const near = photo.width / 40; // half of what the loupe shows
  return (
    <div className={classes.photo}>
      <svg
        ref={picture}
        className={classes.picture}
        data-placing={placing ? true : undefined}
        viewBox={`0 0 ${photo.width} ${photo.height}`}
        role="application"
        aria-label={`Photograph ${photo.name} with its marks`}
        onPointerDown={(e) => placing && click(place(e))}
        onPointerMove={(e) => {
          if (held) {
            move(held, place(e));
          } else if (placing) {
            setLooked({ point: '', at: place(e) });
          }
        }}
        onPointerUp={() => setHeld(undefined)}
        onPointerLeave={() => !held && setLooked(undefined)}
      >
        <image
          href={url}
          width={photo.width}
          height={photo.height}
          onError={() => setMissing(photo.hash)}
          onLoad={() => setMissing(undefined)}
          key={`${photo.hash} ${work.shown}`}
          preserveAspectRatio="none"
        />
        <g className={classes.planeGrid} strokeWidth={size / 12}>
          {answer?.grid.map((l) => (
            <line key={l.join()} x1={l[0]?.[0]} y1={l[0]?.[1]} x2={l[1]?.[0]} y2={l[1]?.[1]} />
          ))}
        </g>
        {photo.mode === 'corners' ? (
          <polygon
            className={classes.known}
            points={photo.corners.map((c) => c.join()).join(' ')}
            strokeWidth={size / 5}
          />
        ) : (
          <line
            className={classes.known}
            x1={photo.a[0]}
            y1={photo.a[1]}
            x2={photo.b[0]}
            y2={photo.b[1]}
            strokeWidth={size / 5}
          />
        )}
        {photo.lengths.map((l, i) => {
          const [ax, ay] = at(l.a);
          const [bx, by] = at(l.b);
          const reading = answer?.readings.find((r) => r.id === l.id);
          const words = `${i + 1}  ${reading && !reading.failed ? reading.real : ''}`;
          return (
            <g key={l.id} className={classes.measured}>
              <line x1={ax} y1={ay} x2={bx} y2={by} strokeWidth={size / 4} />
              <text
                x={(ax + bx) / 2 + (Math.abs(bx - ax) < Math.abs(by - ay) ? size : 0)}
                y={(ay + by) / 2 - size * 0.8}
                fontSize={size * 1.9}
                strokeWidth={size / 2.5}
              >
                {words}
              </text>
            </g>
          );
        })}
        {points.map((p) => (
          <g
            key={p.point}
            className={classes.point}
            role="slider"
            tabIndex={0}
            aria-label={p.name}
            aria-valuenow={p.at[0]}
            aria-valuetext={`${p.at[0].toFixed(1)}, ${p.at[1].toFixed(1)} px`}
            data-point={p.point}
            onPointerDown={(e) => {
              if (!placing) {
                e.stopPropagation();
                e.currentTarget.focus();
                picture.current?.setPointerCapture(e.pointerId);
                setHeld(p.point);
                setLooked({ point: p.point, at: p.at });
              }
            }}
            onFocus={() => setLooked({ point: p.point, at: p.at })}
            onBlur={() => setLooked(undefined)}
            onKeyDown={(e) => {
              const by = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
              const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key];
              if (way) {
                e.preventDefault();
                e.stopPropagation();
                const next: Point = [p.at[0] + (way[0] ?? 0), p.at[1] + (way[1] ?? 0)];
                move(p.point, [Math.round(next[0] * 10) / 10, Math.round(next[1] * 10) / 10]);
              }
            }}
          >
            <circle cx={p.at[0]} cy={p.at[1]} r={size * 1.6} fill="transparent" />
            <circle className={classes.rim} cx={p.at[0]} cy={p.at[1]} r={size * 0.55} strokeWidth={size / 2.2} />
            <circle className={classes.ring} cx={p.at[0]} cy={p.at[1]} r={size * 0.55} strokeWidth={size / 5} />
            <circle cx={p.at[0]} cy={p.at[1]} r={size / 10} fill="var(--raised)" />
            {p.label && (
              <text x={p.at[0] - size * 1.1} y={p.at[1] - size * 0.8} fontSize={size * 1.7} strokeWidth={size / 2.5}>
                {p.label}
              </text>
            )}
          </g>
        ))}
      </svg>
      {focus && (
        <svg
          className={classes.loupe}
          data-left={focus[0] > photo.width / 2 || undefined}
          viewBox={`${focus[0] - near} ${focus[1] - near} ${2 * near} ${2 * near}`}
          aria-hidden="true"
        >
          <image href={url} width={photo.width} height={photo.height} preserveAspectRatio="none" />
          <path
            d={[
              `M${focus[0] - photo.width} ${focus[1]}H${focus[0] + photo.width}`,
              `M${focus[0]} ${focus[1] - photo.width}V${focus[1] + photo.width}`,
            ].join('')}
            stroke="var(--ember)"
            strokeWidth={photo.width / 1600}
          />
        </svg>
      )}
      {missing === photo.hash && (
        <p role="alert" className={classes.empty}>
          The picture itself is not in this workshop: an export carries its marks only. Open the same file again at the
          right; then the marks fit it.
        </p>
      )}
    </div>
  );
}
