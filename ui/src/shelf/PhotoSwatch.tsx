import { Button, FileButton, Modal } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import { Marked, type Place } from '../room/Marked';
import { cardCorners, readPicture, type Shown } from '../room/picture';
import { Why } from '../why/Why';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { useSwatch } from './useShelf';

/** What is clicked, one after the other. */
const asked = [...cardCorners, 'the colour itself'];

/** A swatch from a photograph that shows the neutral card beside the colour. */
export function PhotoSwatch({ onTake }: { onTake: (hex: string) => void }) {
  const [shown, setShown] = useState<Shown>();
  const [points, setPlaces] = useState<Place[]>([]);
  const [unread, setUnread] = useState(false);
  const swatch = useSwatch();
  const take = async (file: File | null) => {
    if (!file) {
      return;
    }
    try {
      setShown(await readPicture(file));
      setPlaces([]);
      swatch.reset();
      setUnread(false);
    } catch {
      setUnread(true);
    }
  };
  const click = (at: Place) => {
    const next = [...points.slice(0, 4), at];
    setPlaces(next);
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
                <button type="button" className="word" onClick={() => setPlaces([])}>
                  begin anew
                </button>
              )}
            </p>
            <Marked
              name="The photograph"
              src={shown.url}
              size={[shown.width, shown.height]}
              marks={points.slice(0, 4)}
              dots={points.slice(4).map((at) => ({ at, fill: 'none' }))}
              onClick={click}
            />
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
