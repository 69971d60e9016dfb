import { Select, Slider, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Layer, Plan } from '../api/client';
import { useLibrary } from '../api/useLibrary';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';

interface WorkedProps {
  build: string;
  layer: Layer;
  /** How its amount came about. */
  argued?: Argued;
  tools: RoomProps['tools'];
}

/** What was typed, as a number; none where it is none. */
const read = (text: string) => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.').replace('%', '')));

type Argued = Plan['argued'][number];

const whole: Record<string, string> = {
  landing: 'where it lands',
  layer: 'the marks below',
  details: 'the details',
  zone: 'the area',
};

/** How a layer is worked and how much of it there is: the plate answers when one lets go. */
export function Worked({ build, layer, argued, tools }: WorkedProps) {
  const library = useLibrary().data;
  const [dragged, setDragged] = useState<number>();
  const [typed, setTyped] = useState<string>();
  const suits = (library?.techniques ?? []).filter((t) => t.kinds.includes(layer.kind));
  const usual = library?.layers.find((k) => k.id === layer.kind)?.usual;
  const now = suits.find((t) => t.id === (layer.technique || usual));
  if (!now) {
    return null;
  }
  const change = (by: Partial<Layer>) =>
    tools.edit.mutate([{ op: 'layers', layers: [{ op: 'change', layer: { ...layer, ...by } }] }]);
  const unit = now.share ? { of: 100, sign: ' %' } : { of: 1, sign: ' µm' };
  const table = unit.of * now.amount;
  const amount = dragged ?? unit.of * (layer.amount ?? argued?.now ?? now.amount);
  const most = now.share ? Math.min(100, Math.max(4 * table, 5)) : Math.max(4 * table, 10);
  const taken = () => {
    const v = read(typed ?? '');
    if (typed !== undefined && Number.isFinite(v)) {
      take(v);
    }
  };
  const take = (v: number) => {
    setTyped(undefined);
    setDragged(undefined);
    change({ amount: Math.min(v, now.share ? 100 : 2000) / unit.of });
  };
  return (
    <section aria-label={`How ${layer.name} is worked`} className={classes.worked}>
      <Select
        label="How it is worked"
        allowDeselect={false}
        data={suits.map((t) => ({ value: t.id, label: t.name }))}
        value={now.id}
        onChange={(id) => id && id !== now.id && change({ technique: id, amount: undefined })}
      />
      <p className={classes.mute}>
        It lands {now.where}. To look at: {now.check}.
      </p>
      <div className={classes.row}>
        <Slider
          className={classes.wide}
          thumbLabel={`How much of ${layer.name}`}
          min={0}
          max={most}
          step={most / 200}
          label={null}
          value={Math.min(amount, most)}
          onChange={setDragged}
          onChangeEnd={take}
        />
        <form
          onSubmit={(e) => {
            e.preventDefault();
            taken();
          }}
        >
          <TextInput
            aria-label={`Amount of ${layer.name}`}
            size="xs"
            w={100}
            inputMode="decimal"
            rightSection={<small>{unit.sign}</small>}
            value={typed ?? String(Number(amount.toFixed(2)))}
            onChange={(e) => setTyped(e.currentTarget.value)}
            onBlur={taken}
            error={typed !== undefined && !Number.isFinite(read(typed)) ? 'a number' : undefined}
          />
        </form>
      </div>
      <p className={classes.mute}>
        {argued?.words}
        {argued ? '; ' : ''}
        {now.share ? `of ${whole[now.of ?? 'zone']}` : 'dry, the mean where it lands'}
        {layer.amount !== undefined && (
          <>
            {'; '}
            <button type="button" className="word" onClick={() => change({ amount: undefined })}>
              as its story has it
            </button>
          </>
        )}
      </p>
      {!library?.layers.find((k) => k.id === layer.kind)?.works && (
        <p>
          <a href={`/api/builds/${build}/sheets/trial.pdf?layer=${layer.id}`} target="_blank" rel="noreferrer">
            Trial card, 1:1
          </a>{' '}
          <span className={classes.mute}>right, too little, too much, and a field for your own hand</span>
        </p>
      )}
    </section>
  );
}
