import { Modal, NumberInput } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useEffect, useRef, useState } from 'react';
import type { Plan } from '../api/client';
import { whole } from './Plate';
import classes from './Plate.module.css';
import type { Box } from './usePlate';

/** How wide a bar of this many screen pixels is drawn for the ruler. */
const barPixels = 400;

/** What runs together seen from 1 m with narrowed eyes, mm on the model. */
const squinted = 0.7;

/** Part of the sheet that is shown: moved and drawn nearer with the wheel, two fingers or
 * the keys; or set so that the model has its true size on this screen. */
export function usePlateBox(plan: Plan | undefined) {
  const [box, setBox] = useState<Box>();
  const [pixels, setPixels] = useLocalStorage<number>({ key: 'cinderpath-pixels-per-mm', defaultValue: 0 });
  const full = plan ? whole(plan) : ([0, 0, 100, 100] as Box);
  return { box: box ?? full, full, nearer: box !== undefined, setBox, pixels, setPixels };
}

export type PlateBox = ReturnType<typeof usePlateBox>;

/** What frames the plate: panning, zooming, true size, and turning in space. */
export function Frame({
  view,
  turning,
  onTurn,
  children,
}: {
  view: PlateBox;
  turning: boolean;
  onTurn: () => void;
  children: React.ReactNode;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const drag = useRef<{ x: number; y: number; box: Box }>(undefined);
  const [panning, setPanning] = useState(false);
  const [ruler, setRuler] = useState(false);
  const [squint, setSquint] = useState(false);
  const { box, setBox, full, pixels } = view;

  /** Model mm under a screen pixel: the drawing keeps its proportions within the frame. */
  const grain = () => {
    const r = frame.current?.getBoundingClientRect();
    return r ? Math.max(box[2] / r.width, box[3] / r.height) : 1;
  };
  const zoom = (by: number, clientX?: number, clientY?: number) => {
    const r = frame.current?.getBoundingClientRect();
    if (!r) {
      return;
    }
    const g = grain();
    const px = clientX === undefined ? r.width / 2 : clientX - r.left;
    const py = clientY === undefined ? r.height / 2 : clientY - r.top;
    const width = Math.min(Math.max(g * by, full[2] / r.width / 40), 4 * (full[2] / r.width)) * r.width;
    const k = width / r.width;
    const x = box[0] + box[2] / 2 + (px - r.width / 2) * (g - k);
    const y = box[1] + box[3] / 2 + (py - r.height / 2) * (g - k);
    setBox([x - width / 2, y - (k * r.height) / 2, width, k * r.height]);
  };
  const trueSize = () => {
    const r = frame.current?.getBoundingClientRect();
    if (!r) {
      return;
    }
    if (!pixels) {
      setRuler(true);
      return;
    }
    const [w, h] = [r.width / pixels, r.height / pixels];
    setBox([box[0] + box[2] / 2 - w / 2, box[1] + box[3] / 2 - h / 2, w, h]);
  };
  const r = frame.current?.getBoundingClientRect();
  const isTrue = pixels > 0 && r !== undefined && Math.abs(1 / grain() - pixels) < 0.01 * pixels;

  // React listens passively to the wheel; the page must not scroll with the plate.
  const zooming = useRef(zoom);
  zooming.current = zoom;
  useEffect(() => {
    const el = frame.current;
    const turn = (e: WheelEvent) => {
      e.preventDefault();
      zooming.current(e.deltaY > 0 ? 1.2 : 1 / 1.2, e.clientX, e.clientY);
    };
    if (turning) {
      return;
    }
    el?.addEventListener('wheel', turn, { passive: false });
    return () => el?.removeEventListener('wheel', turn);
  }, [turning]);

  return (
    <div
      ref={frame}
      className={classes.frame}
      data-panning={panning || undefined}
      data-squint={(squint && !turning) || undefined}
      style={{ '--squint': `${squinted / grain()}px` } as React.CSSProperties}
      onPointerDown={(e) => {
        if (!turning && e.button === 0 && !(e.target as Element).closest('[data-handle]')) {
          drag.current = { x: e.clientX, y: e.clientY, box };
        }
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (d && (panning || Math.hypot(e.clientX - d.x, e.clientY - d.y) > 5)) {
          setPanning(true);
          const g = grain();
          setBox([d.box[0] - (e.clientX - d.x) * g, d.box[1] - (e.clientY - d.y) * g, d.box[2], d.box[3]]);
        }
      }}
      onPointerUp={() => {
        drag.current = undefined;
      }}
      onPointerLeave={() => {
        drag.current = undefined;
        setPanning(false);
      }}
      onClickCapture={(e) => {
        if (panning) {
          e.stopPropagation(); // the end of a drag picks nothing
          setPanning(false);
        }
      }}
    >
      {children}
      <div className={classes.tools} role="toolbar" aria-label="The plate's view">
        {!turning && (
          <>
            <button type="button" className="word" onClick={() => zoom(1 / 1.4)} aria-label="Nearer">
              nearer
            </button>
            <button type="button" className="word" onClick={() => zoom(1.4)} aria-label="Farther">
              farther
            </button>
            <button type="button" className="word" onClick={() => setBox(undefined)} disabled={!view.nearer}>
              whole
            </button>
            <button type="button" className="word" onClick={trueSize} aria-pressed={isTrue}>
              true size
            </button>
            <button type="button" className="word" onClick={() => setSquint(!squint)} aria-pressed={squint}>
              squint
            </button>
            {pixels > 0 && (
              <button type="button" className="word" onClick={() => setRuler(true)}>
                ruler
              </button>
            )}
          </>
        )}
        <button type="button" className="word" onClick={onTurn} aria-pressed={turning}>
          {turning ? 'five views' : 'turn it'}
        </button>
      </div>
      <Ruler view={view} opened={ruler} onClose={() => setRuler(false)} />
    </div>
  );
}

/** A bar on the screen is measured with a ruler, once; then the screen's size is known. */
function Ruler({ view, opened, onClose }: { view: PlateBox; opened: boolean; onClose: () => void }) {
  const [mm, setMM] = useState<number | string>(view.pixels ? Math.round((barPixels / view.pixels) * 10) / 10 : '');
  const keep = () => {
    const n = Number(mm);
    if (n >= 20 && n <= 400) {
      view.setPixels(barPixels / n);
      onClose();
    }
  };
  const bad = mm !== '' && !(Number(mm) >= 20 && Number(mm) <= 400);
  return (
    <Modal opened={opened} onClose={onClose} title="How large is this screen?" size="lg">
      <p>Hold a ruler against the bar and type how long it is. It is asked once for this screen.</p>
      <svg
        width={barPixels}
        height="34"
        role="img"
        aria-label="Bar to measure"
        style={{ display: 'block', margin: '14px 0' }}
      >
        <path d={`M0.5 2V32M${barPixels - 0.5} 2V32M0 17H${barPixels}`} stroke="currentColor" fill="none" />
      </svg>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <NumberInput
          label="Length of the bar, mm"
          value={mm}
          onChange={setMM}
          decimalScale={1}
          error={bad ? 'A bar of a screen is 20 to 400 mm long: measure it again.' : undefined}
        />
        <button type="submit" className="word" style={{ marginTop: 10 }}>
          keep it
        </button>
      </form>
    </Modal>
  );
}
