import { Button } from '@mantine/core';
import { useState } from 'react';
import { api, ask, type BuildState, type View, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import type { Point } from '../form/project';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import own from './Scheme.module.css';
import { type Camouflage, type PinWork, useCamouflage } from './useScheme';

interface PinsProps {
  tools: BuildTools;
  data: BuildState;
  told?: Camouflage;
  work: PinWork;
}

/** Places that have a colour, whatever the rule would lay there. */
export function Pins({ tools, data, told, work }: PinsProps) {
  const { colours } = data.build.scheme;
  const { pinning, setPinning } = work;
  return (
    <section aria-label="Pins" className={classes.form}>
      <h3>This place is that colour</h3>
      <div className={classes.row}>
        {colours.map((c, i) => (
          <Button
            key={c.name}
            size="xs"
            variant={pinning?.act === 'pin' && pinning.colour === i ? 'filled' : 'outline'}
            leftSection={<i className={own.chip} style={{ background: c.hex }} />}
            onClick={() =>
              setPinning(pinning?.act === 'pin' && pinning.colour === i ? undefined : { act: 'pin', colour: i })
            }
          >
            Pin {c.name}
          </Button>
        ))}
        <Button
          size="xs"
          variant={pinning?.act === 'move' ? 'filled' : 'outline'}
          onClick={() => setPinning(pinning?.act === 'move' ? undefined : { act: 'move' })}
        >
          Move a field
        </Button>
      </div>
      {told && told.pins.length > 0 && (
        <ol className={own.pins}>
          {told.pins.map((p, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a pin is its place in the list
            <li key={i} data-lost={p.lost ? true : undefined}>
              <i className={own.chip} style={{ background: p.hex }} />
              <span>
                {p.name}, {p.where}
                {p.lost && <em> does not hold: {p.lost}</em>}
              </span>
              <TakeOut
                what={`pin ${i + 1}`}
                inRow
                onTake={() => tools.edit.mutate([{ op: 'dropPin', pin: { colour: 0, number: i + 1 } }])}
              />
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

/** Pins over a view, to be dragged. */
export function PinHandles({ view, data, tools }: { view: View; data: BuildState; tools: BuildTools }) {
  const told = useCamouflage(data.build.id, data.revision).data;
  const [drag, setDrag] = useState<{ pin: number; at: Point }>();
  const [fault, setFault] = useState<string>();
  const unit = data.plan.sheet.width;
  const rest = async (pin: number, at: Point) => {
    setDrag(undefined);
    try {
      const { point, zone } = await ask(
        api.POST('/api/builds/{id}/pick', {
          params: { path: { id: data.build.id } },
          body: { side: view.side, x: at[0], y: at[1] },
        }),
      );
      const colour = data.build.scheme.anchors?.[pin]?.colour ?? 0;
      await tools.edit.mutateAsync([
        { op: 'pin', pin: { number: pin + 1, colour, place: { what: 'pin', on: zone, at: point } } },
      ]);
      setFault(undefined);
    } catch (e) {
      setFault(words(e));
    }
  };
  return (
    <g aria-label={`Pins, ${view.side}`}>
      {told?.pins.map((p, i) => {
        const seen = p.seen.find((s) => s.side === view.side);
        const at = drag?.pin === i ? drag.at : (seen?.at as Point | undefined);
        return (
          seen &&
          at && (
            // biome-ignore lint/a11y/useSemanticElements: a point of a drawing cannot be a button element
            <g
              // biome-ignore lint/suspicious/noArrayIndexKey: a pin is its place in the list
              key={i}
              data-handle
              data-lost={p.lost ? true : undefined}
              className={own.pin}
              role="button"
              tabIndex={-1}
              aria-label={`Pin ${i + 1}, ${p.name}`}
              transform={`translate(${at[0]} ${at[1]}) scale(${unit / 100})`}
              onClick={(e) => e.stopPropagation()}
              onPointerDown={(e) => {
                e.stopPropagation();
                e.currentTarget.setPointerCapture(e.pointerId);
                setDrag({ pin: i, at });
              }}
              onPointerMove={(e) => {
                const m = (e.currentTarget.parentNode as SVGGElement).getScreenCTM();
                if (m && e.currentTarget.hasPointerCapture(e.pointerId)) {
                  const q = new DOMPoint(e.clientX, e.clientY).matrixTransform(m.inverse());
                  setDrag({ pin: i, at: [q.x, q.y] });
                }
              }}
              onPointerUp={(e) => {
                e.currentTarget.releasePointerCapture(e.pointerId);
                if (drag && (drag.at[0] !== seen.at[0] || drag.at[1] !== seen.at[1])) {
                  rest(i, drag.at);
                } else {
                  setDrag(undefined);
                }
              }}
            >
              <path d="M0 0 L-0.55 -1.3 A0.75 0.75 0 1 1 0.55 -1.3 Z" fill={p.hex} />
              <title>{p.lost ? `${p.name}: ${p.lost}` : `${p.name}: drag it to where it shall be`}</title>
            </g>
          )
        );
      })}
      {fault && (
        <text className={own.fault} fontSize={unit * 0.016} y={view.height + unit * 0.02}>
          {fault}
        </text>
      )}
    </g>
  );
}
