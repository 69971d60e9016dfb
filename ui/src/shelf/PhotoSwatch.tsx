import { Button, FileButton, Modal } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import { readPicture, type Shown } from '../room/picture';
import { Why } from '../why/Why';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { useSwatch } from './useShelf';

type Point = [number, number];

/** What is clicked, one after the other. */
const asked = [
  'upper left corner of the card',
  'upper right corner',
  'lower right corner',
  'lower left corner',
  'the colour itself',
];

/** A swatch from a photograph that shows the neutral card beside the colour. */
export function PhotoSwatch({ onTake }: { onTake: (hex: string) => void }) {
  const [shown, setShown] = useState<Shown>();
  const [points, setPoints] = useState<Point[]>([]);
  const [unread, setUnread] = useState(false);
  const swatch = useSwatch();
  const take = async (file: File | null) => {
    if (!file) {
      return;
    }
    try {
      setShown(await readPicture(file));
      setPoints([]);
      swatch.reset();
      setUnread(false);
    } catch {
      setUnread(true);
    }
  };
  const click = (at: Point) => {
    const next = [...points.slice(0, 4), at];
    setPoints(next);
    if (shown && next.length === 5) {
      swatch.mutate({ image: shown.data, corners: next.slice(0, 4), at, radius: Math.max(3, shown.width / 100) });
    }
  };
  const a = swatch.data;
  return (
    <div className={classes.row}>
      <FileButton accept="image/png,image/jpeg" onChange={take}>
        {(props) => (
          <button type="button" className="word" {...props}>
            swatch from a photograph
          </button>
        )}
      </FileButton>
      <a className="word" href="/api/shelf/card.pdf" target="_blank" rel="noreferrer">
        print the neutral card
      </a>
      {unread && (
        <p role="alert" className="trouble">
          That file is no picture that can be read. Save it as JPEG or PNG.
        </p>
      )}
      <Modal
        opened={shown !== undefined}
        onClose={() => setShown(undefined)}
        title="Swatch from a photograph"
        size="xl"
      >
        {shown && (
          <div className={classes.photo}>
            <p>
              {points.length < asked.length
                ? `Click ${asked[points.length]}.`
                : 'Click another place of the colour, or take it.'}{' '}
              {points.length > 0 && (
                <button type="button" className="word" onClick={() => setPoints([])}>
                  begin anew
                </button>
              )}
            </p>
            {/* biome-ignore lint/a11y/useKeyWithClickEvents: places on a photograph are pointed at */}
            <svg
              viewBox={`0 0 ${shown.width} ${shown.height}`}
              role="img"
              aria-label="The photograph"
              onClick={(e) => {
                // The picture may lie smaller inside its frame.
                const at = new DOMPoint(e.clientX, e.clientY).matrixTransform(
                  e.currentTarget.getScreenCTM()?.inverse(),
                );
                click([at.x, at.y]);
              }}
            >
              <image href={shown.url} width={shown.width} height={shown.height} />
              {points.map(([x, y], i) => (
                <circle
                  key={`${x} ${y}`}
                  cx={x}
                  cy={y}
                  r={shown.width / (i < 4 ? 140 : 100)}
                  fill="none"
                  stroke={i < 4 ? 'var(--light)' : 'var(--edge)'}
                  strokeWidth={shown.width / 400}
                />
              ))}
            </svg>
            {swatch.error && (
              <p role="alert" className="trouble">
                {words(swatch.error)}
              </p>
            )}
            {a && (
              <div className={classes.row}>
                <div className={classes.told}>
                  <Split hex={a.hex} beside={a.hex} />
                </div>
                <Why why={a.why} name="How sure the colour is">
                  {a.hex}, L ± {a.sure[0]?.toFixed(1)}, a ± {a.sure[1]?.toFixed(1)}, b ± {a.sure[2]?.toFixed(1)}
                </Why>
                <Button
                  size="xs"
                  onClick={() => {
                    onTake(a.hex);
                    setShown(undefined);
                  }}
                >
                  Take this swatch
                </Button>
              </div>
            )}
          </div>
        )}
      </Modal>
    </div>
  );
}
