import { Button, Checkbox, MultiSelect, NumberInput, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { type RecipeLine, type RecipeQuestion, words } from '../api/client';
import { Why } from '../why/Why';
import { Becomes, Recipe } from './Recipe';
import { SendTo } from './SendTo';
import classes from './Shelf.module.css';
import { Split } from './Split';
import { type ShelfRoomProps, said } from './said';
import { useAbove, useBuilds, useRecipe, useRelatives } from './useShelf';

/** From a colour that is wanted to drops of what is owned. */
export function MixRoom({ tools, shelf }: ShelfRoomProps) {
  const [params] = useSearchParams();
  const { jars = [], mixes = [] } = shelf.shelf;
  const [hex, setHex] = useState(params.get('hex') ?? '');
  const [pot, setPot] = useState<string | null>(null);
  const [most, setMost] = useState('3');
  const [inStock, setInStock] = useState(true);
  const [without, setWithout] = useState<string[]>([]);
  const [must, setMust] = useState<string[]>([]);
  const [ml, setMl] = useState<number | string>(3);
  const [build, setBuild] = useState(params.get('build') ?? '');
  const [atEnd, setAtEnd] = useState(false);
  const [white, setWhite] = useState<string | null>(null);
  const [chosen, setChosen] = useState<number>();
  const builds = useBuilds();
  const above = useAbove(build);
  const recipe = useRecipe();
  const relatives = useRelatives();
  const answer = recipe.data;
  const line = answer?.recipes[chosen ?? answer.preferred];
  const named = builds.data?.builds.find((b) => b.glance.build === build)?.glance;
  const question = (): RecipeQuestion => ({
    target: pot ? { pot } : { hex: hex.trim() },
    maxPaints: Number(most),
    maxParts: 12,
    inStock,
    exclude: without,
    must,
    ml: Number(ml) || 0,
    above: build ? above.data : undefined,
    atEnd: atEnd && build !== '',
    white: white ?? undefined,
    scale: white && named ? Number(named.scale.replace('1:', '')) : undefined,
  });
  const find = () => {
    setChosen(undefined);
    relatives.reset();
    recipe.mutate(question());
  };
  const paints = jars.filter((j) => j.hex).map((j) => ({ value: j.id, label: said(j) }));
  return (
    <div className={classes.mixing}>
      <form
        className={classes.asked}
        aria-label="The colour that is wanted"
        onSubmit={(e) => {
          e.preventDefault();
          find();
        }}
      >
        <TextInput
          label="Colour that is wanted"
          placeholder={shelf.shelf.jars?.[0]?.hex}
          value={hex}
          disabled={pot !== null}
          onChange={(e) => setHex(e.currentTarget.value)}
        />
        <Select
          label="or match a jar or a mix"
          placeholder="none"
          clearable
          searchable
          data={[...mixes.map((m) => ({ value: m.id, label: m.name })), ...paints]}
          value={pot}
          onChange={setPot}
        />
        <Select
          label="For"
          placeholder="no build"
          clearable
          data={builds.data?.builds.map((b) => ({ value: b.glance.build, label: b.glance.name })) ?? []}
          value={build || null}
          onChange={(b) => setBuild(b ?? '')}
        />
        <Checkbox
          label="as it shall look at the end"
          description={
            build && above.data && above.data.length > 0
              ? `under ${above.data.map((a) => a.name.toLowerCase()).join(', ')}`
              : 'under what the build plans over it'
          }
          disabled={!build}
          checked={atEnd}
          onChange={(e) => setAtEnd(e.currentTarget.checked)}
        />
        <div>
          <p className={classes.label}>At most so many paints</p>
          <SegmentedControl
            aria-label="At most so many paints"
            fullWidth
            data={['1', '2', '3', '4']}
            value={most}
            onChange={setMost}
          />
        </div>
        <Checkbox
          label="only what is in stock"
          checked={inStock}
          onChange={(e) => setInStock(e.currentTarget.checked)}
        />
        <MultiSelect
          label="With"
          placeholder={must.length ? undefined : 'any'}
          searchable
          data={paints}
          value={must}
          onChange={setMust}
        />
        <MultiSelect
          label="Without"
          placeholder={without.length ? undefined : 'none'}
          searchable
          data={paints}
          value={without}
          onChange={setWithout}
        />
        <div className={classes.pair}>
          <NumberInput label="Needed, ml" min={0} max={200} step={0.5} value={ml} onChange={setMl} />
          <Select
            label="Lighten with"
            placeholder="nothing"
            clearable
            data={paints}
            value={white}
            onChange={setWhite}
          />
        </div>
        <Button type="submit" loading={recipe.isPending} disabled={!pot && !/^#[0-9a-f]{6}$/i.test(hex.trim())}>
          Find recipes
        </Button>
        {recipe.isPending && <p role="status">Looking at every mix of what you own…</p>}
        {recipe.error && (
          <p role="alert" className="trouble">
            {words(recipe.error)}
          </p>
        )}
      </form>
      <section aria-label="Recipes" className={classes.recipes}>
        {!answer && (
          <p className={classes.mute}>
            Type a colour, or match a jar: the best mixes of what stands on your shelf come here, in drops, beside the
            colour that is wanted.
          </p>
        )}
        {answer && (
          <p className={classes.mute}>
            <Why why={answer.why} name="How it was searched">
              {answer.candidates.toLocaleString('en')} mixes
            </Why>{' '}
            {answer.recipes.length === 0 ? 'and none of them is allowed.' : 'were in question; these come closest.'}
          </p>
        )}
        <ol className={classes.found}>
          {answer?.recipes.map((r, i) => (
            <li key={r.parts.map((p) => p.jar + p.parts).join()}>
              <button
                type="button"
                className={classes.candidate}
                aria-pressed={r === line}
                onClick={() => {
                  setChosen(i);
                  relatives.reset();
                }}
              >
                <Split hex={answer.target} beside={atEnd && build ? r.end : r.hex} name={`wanted beside ${r.hex}`} />
                <Drops line={r} />
                <span className={classes.apart}>
                  ΔE00 {r.difference.toFixed(1)}
                  <small>{r.words}</small>
                </span>
              </button>
            </li>
          ))}
        </ol>
      </section>
      <aside aria-label="The recipe" className={classes.side}>
        {line && answer && (
          <>
            <Recipe line={line} target={answer.target} />
            <SendTo line={line} tools={tools} build={build} />
            <Becomes line={line} />
            <Relatives
              busy={relatives.isPending}
              onAsk={() =>
                relatives.mutate({
                  ...question(),
                  target: { hex: line.hex },
                  maxPaints: Math.min(Number(most), 3),
                  atEnd: false,
                })
              }
            />
            {relatives.data && (
              <ul className={classes.relatives}>
                {relatives.data.map((r) => (
                  <li key={r.name}>
                    <Split hex={r.target} beside={r.recipe.hex} />
                    <span>
                      {r.name}
                      <small>{r.recipe.parts.map((p) => `${p.parts} × ${p.name}`).join(', ')}</small>
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
      </aside>
    </div>
  );
}

function Relatives({ busy, onAsk }: { busy: boolean; onAsk: () => void }) {
  return (
    <Button size="xs" variant="outline" loading={busy} onClick={onAsk}>
      Lighter, darker and faded relatives
    </Button>
  );
}

/** A recipe as a bar: each part a drop of its jar. */
export function Drops({ line }: { line: RecipeLine }) {
  const all = line.parts.reduce((n, p) => n + p.parts, 0);
  let at = 0;
  return (
    <span className={classes.bar}>
      <svg viewBox="0 0 120 18" preserveAspectRatio="none" aria-hidden="true">
        {line.parts.flatMap((p) =>
          Array.from({ length: p.parts }, () => {
            const x = (120 * at++) / all;
            return <rect key={`${p.jar}${x}`} x={x + 0.4} width={120 / all - 0.8} height="18" fill={p.hex} />;
          }),
        )}
      </svg>
      <small>{line.parts.map((p) => `${p.parts} ${p.name}`).join(' · ')}</small>
    </span>
  );
}
