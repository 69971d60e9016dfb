import { Button, ColorInput, NumberInput, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { type Edit, type Pattern, words } from '../api/client';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import { PotSelect } from './PotSelect';

/** Colours, shares and bands; the plate follows when they are taken. */
export function SchemeTray({ tools, data }: RoomProps) {
  const kept = data.build.scheme;
  const [scheme, setScheme] = useState<Pattern>(kept);
  const [base, setBase] = useState(kept);
  useEffect(() => {
    setScheme((now) => (JSON.stringify(now) === JSON.stringify(base) ? kept : now));
    setBase(kept);
  }, [kept, base]);
  const dirty = JSON.stringify(scheme) !== JSON.stringify(kept);
  const colour = (i: number, change: Partial<Pattern['colours'][number]>) =>
    setScheme({ ...scheme, colours: scheme.colours.map((c, k) => (k === i ? { ...c, ...change } : c)) });
  const take = (next: Pattern, ...then: Edit[]) => tools.edit.mutate([{ op: 'scheme', scheme: next }, ...then]);
  const refused = tools.edit.isError && !tools.stale && tools.edit.variables?.some((e) => e.op === 'scheme');
  return (
    <section aria-label="Scheme" className={classes.form}>
      {scheme.colours.map((c, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: colours are told apart by their place in spraying order
          key={i}
          className={classes.form}
        >
          <TextInput
            label={i === 0 ? 'First colour, takes what is left' : `Colour ${i + 1}, sprayed over it`}
            value={c.name}
            onChange={(e) => colour(i, { name: e.currentTarget.value })}
          />
          <div className={classes.two}>
            <ColorInput
              aria-label={`Swatch of ${c.name}`}
              format="hex"
              value={c.hex}
              onChange={(hex) => colour(i, { hex, jar: hex === c.hex ? c.jar : '' })}
              withEyeDropper={false}
            />
            {i > 0 ? (
              <NumberInput
                aria-label={`Share of ${c.name} in per cent`}
                leftSection="%"
                min={1}
                max={90}
                value={Math.round(c.share * 1000) / 10}
                onChange={(v) => colour(i, { share: Number(v) / 100 })}
              />
            ) : (
              <span className={classes.mute}>{(100 * (data.plan.colours[0]?.share ?? 0)).toFixed(1)} % now</span>
            )}
          </div>
          <PotSelect
            label={`What ${c.name} is sprayed from`}
            family={data.build.layers.find((l) => l.kind === 'colour' && !l.hex)?.family}
            value={c.jar}
            line={data.plan.pots.find((p) => p.colour === i + 1)}
            onTake={(jar, of) => colour(i, { jar, ...(of?.hex ? { hex: of.hex } : {}) })}
          />
          {i > 0 && (
            <TakeOut
              what={c.name}
              onTake={() => setScheme({ ...scheme, colours: scheme.colours.filter((_, k) => k !== i) })}
            />
          )}
        </div>
      ))}
      {scheme.colours.length < 3 && (
        <Button variant="outline" size="xs" onClick={() => take(scheme, { op: 'addColour' })}>
          Add a colour
        </Button>
      )}
      <div className={classes.two}>
        <NumberInput
          label="Band width, real mm"
          value={Math.round(scheme.width)}
          min={50}
          max={5000}
          step={50}
          onChange={(v) => setScheme({ ...scheme, width: Number(v) })}
        />
        <NumberInput
          label="Soft edge, real mm"
          value={Math.round(scheme.feather)}
          min={0}
          max={500}
          step={10}
          onChange={(v) => setScheme({ ...scheme, feather: Number(v) })}
        />
      </div>
      <div className={classes.row}>
        <Button disabled={!dirty} loading={tools.edit.isPending} onClick={() => take(scheme)}>
          Take this scheme
        </Button>
        <Button variant="outline" onClick={() => take({ ...scheme, seed: scheme.seed + 1 })}>
          Lay the bands anew
        </Button>
      </div>
      {refused && (
        <p role="alert" className={classes.error}>
          {words(tools.edit.error)}
        </p>
      )}
    </section>
  );
}
