import { Select } from '@mantine/core';
import type { Jar, Plan } from '../api/client';
import classes from '../room/room.module.css';
import { said } from '../shelf/said';
import { useShelf } from '../shelf/useShelf';

interface PotSelectProps {
  label: string;
  value?: string;
  /** Of what kind of product it usually is: those come first. */
  family?: string;
  /** What the plan says of it. */
  line?: Plan['pots'][number];
  onTake: (pot: string, jar?: Jar) => void;
}

/** The jar or the mix that something is laid from. */
export function PotSelect({ label, value, family, line, onTake }: PotSelectProps) {
  const { state } = useShelf();
  const { jars = [], mixes = [] } = state.data?.shelf ?? {};
  const laid = jars.filter((j) => j.family === family || state.data?.families.some((f) => f.id === j.family));
  const options = (list: Jar[]) => list.map((j) => ({ value: j.id, label: said(j) }));
  const near = line?.near?.[0];
  return (
    <div>
      <Select
        label={label}
        placeholder="no jar is named"
        searchable
        clearable
        data={[
          { group: 'Kept mixes', items: mixes.map((m) => ({ value: m.id, label: m.name })) },
          { group: 'Of its kind', items: options(laid.filter((j) => j.family === family)) },
          { group: 'Others', items: options(laid.filter((j) => j.family !== family)) },
        ].filter((g) => g.items.length > 0)}
        value={value || null}
        onChange={(pot) =>
          onTake(
            pot ?? '',
            jars.find((j) => j.id === pot),
          )
        }
      />
      {line && (
        <p className={classes.mute}>
          {line.words}
          {near && !value && (
            <>
              {' '}
              <button
                type="button"
                className="word"
                onClick={() =>
                  onTake(
                    near.pot,
                    jars.find((j) => j.id === near.pot),
                  )
                }
              >
                take it
              </button>
            </>
          )}
        </p>
      )}
    </div>
  );
}
