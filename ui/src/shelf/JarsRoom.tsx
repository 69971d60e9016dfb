import { Button, FileButton, NumberInput, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Jar as JarText, type ShelfState, words } from '../api/client';
import { TakeOut } from '../room/TakeOut';
import { Jar } from './Jar';
import { PhotoSwatch } from './PhotoSwatch';
import { Said } from './Said';
import classes from './Shelf.module.css';
import { Trials } from './Trials';
import type { ShelfTools } from './useShelf';
import { useLike } from './useShelf';

export interface ShelfRoomProps {
  tools: ShelfTools;
  shelf: ShelfState;
}

/** A jar by number and name. */
export const said = (j: JarText) => (j.number ? `${String(j.number).padStart(2, '0')} ${j.name}` : j.name);

const isColour = (text: string) => /^#[0-9a-f]{6}$/i.test(text.trim());

/** The shelf as it stands, by place; a line at the top enters a jar. */
export function JarsRoom({ tools, shelf }: ShelfRoomProps) {
  const [line, setLine] = useState('');
  const [search, setSearch] = useState('');
  const [open, setOpen] = useState<string>();
  const { jars = [], mixes = [], unread = [] } = shelf.shelf;
  const like = useLike(isColour(search) ? search.trim() : '');
  const family = (id: string) =>
    shelf.families.find((f) => f.id === id)?.name ?? shelf.fluids.find((f) => f.id === id)?.name ?? id;
  const found = jars.filter(
    (j) =>
      isColour(search) ||
      `${said(j)} ${family(j.family)} ${j.place ?? ''}`.toLowerCase().includes(search.toLowerCase()),
  );
  const order = like.data?.map((l) => l.pot) ?? [];
  const rack = isColour(search)
    ? found.filter((j) => order.includes(j.id)).sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
    : found;
  const places = isColour(search) ? ['the likest first'] : [...new Set(rack.map((j) => j.place || 'no place said'))];
  const chosen = jars.find((j) => j.id === open);
  const lineRefused = tools.edit.isError && tools.edit.variables?.some((e) => e.op === 'line');
  return (
    <div className={classes.two}>
      <section aria-label="Jars" className={classes.rack}>
        <form
          className={classes.entry}
          onSubmit={(e) => {
            e.preventDefault();
            const id = crypto.randomUUID();
            tools.edit.mutate([{ op: 'line', id, text: line }], {
              onSuccess: () => {
                setLine('');
                setOpen(id);
              },
            });
          }}
        >
          <TextInput
            aria-label="A jar in one line"
            placeholder="12 lichen green, waterborne acrylic, #66704f, 17 ml"
            value={line}
            onChange={(e) => setLine(e.currentTarget.value)}
            error={lineRefused ? words(tools.edit.error) : undefined}
          />
          <Button type="submit" loading={tools.edit.isPending} disabled={line.trim() === ''}>
            Put on the shelf
          </Button>
          <TextInput
            aria-label="Search"
            placeholder="search, or #66704f for what is like it"
            value={search}
            onChange={(e) => setSearch(e.currentTarget.value)}
          />
        </form>
        {mixes.length > 0 && !search && (
          <div className={classes.place}>
            <h2>Kept mixes</h2>
            <ul className={classes.jars}>
              {mixes.map((m) => (
                <li key={m.id}>
                  <button
                    type="button"
                    className={classes.one}
                    aria-pressed={open === m.id}
                    onClick={() => setOpen(m.id)}
                  >
                    <Jar
                      jar={{
                        id: m.id,
                        name: m.name,
                        family: '',
                        hex: m.hex,
                        volumeMl: 17,
                        leftMl: m.leftMl,
                        state: 'fine',
                      }}
                    />
                    <span>{m.name}</span>
                    <small>{m.leftMl.toFixed(1)} ml left</small>
                  </button>
                </li>
              ))}
            </ul>
          </div>
        )}
        {places.map((place) => (
          <div key={place} className={classes.place}>
            <h2>{place}</h2>
            <ul className={classes.jars}>
              {rack
                .filter((j) => isColour(search) || (j.place || 'no place said') === place)
                .map((j) => (
                  <li key={j.id}>
                    <button
                      type="button"
                      className={classes.one}
                      aria-pressed={open === j.id}
                      onClick={() => setOpen(j.id)}
                    >
                      <Jar jar={j} />
                      <span>{said(j)}</span>
                      <small>
                        {isColour(search)
                          ? `ΔE00 ${like.data?.find((l) => l.pot === j.id)?.difference.toFixed(1)}`
                          : shelf.notes[j.id] || `${j.leftMl.toFixed(j.leftMl < 20 ? 1 : 0)} ml`}
                      </small>
                    </button>
                  </li>
                ))}
            </ul>
          </div>
        ))}
        {rack.length === 0 && <p className={classes.mute}>Nothing on the shelf is called that.</p>}
        {unread.length > 0 && (
          <section aria-label="Rows that could not be read">
            <h2>Rows that could not be read</h2>
            {unread.map((u) => (
              <p key={u.text} className={classes.unread}>
                <code>{u.text}</code> line {u.line}: {u.reason}{' '}
                <button
                  type="button"
                  className="word"
                  onClick={() => tools.edit.mutate([{ op: 'forget', text: u.text }])}
                >
                  forget it
                </button>
              </p>
            ))}
          </section>
        )}
        <div className={classes.row}>
          <FileButton
            accept=".csv,text/csv"
            onChange={async (file) => file && tools.edit.mutate([{ op: 'list', text: await file.text() }])}
          >
            {(props) => (
              <button type="button" className="word" {...props}>
                Read a list (CSV)
              </button>
            )}
          </FileButton>
          <a className="word" href="/api/shelf/jars.csv" download>
            Write a list (CSV)
          </a>
          <span className={classes.mute}>
            {jars.length} jars, {mixes.length} kept {mixes.length === 1 ? 'mix' : 'mixes'}
          </span>
        </div>
        {tools.edit.isError && !lineRefused && (
          <p role="alert" className="trouble">
            {words(tools.edit.error)}
          </p>
        )}
      </section>
      <aside className={classes.side} aria-label="The jar">
        {chosen ? (
          <JarSheet key={chosen.id + chosen.leftMl + chosen.hex} jar={chosen} tools={tools} shelf={shelf} />
        ) : (
          <MixSheet id={open} tools={tools} shelf={shelf} />
        )}
      </aside>
    </div>
  );
}

/** What is known of a jar, and changing it. */
function JarSheet({ jar, tools, shelf }: { jar: JarText } & ShelfRoomProps) {
  const [j, setJ] = useState(jar);
  const kinds = [...shelf.families, ...shelf.fluids];
  const dirty = JSON.stringify(j) !== JSON.stringify(jar);
  return (
    <form
      className={classes.sheet}
      onSubmit={(e) => {
        e.preventDefault();
        tools.edit.mutate([{ op: 'jar', jar: j }]);
      }}
    >
      <div className={classes.jarHead}>
        <Jar jar={j} onLevel={(ml) => setJ({ ...j, leftMl: Math.round(ml * 10) / 10 })} />
        <div>
          <h2>{said(jar)}</h2>
          <p className={classes.mute}>{kinds.find((f) => f.id === j.family)?.name}</p>
          {shelf.notes[jar.id] && <p>{shelf.notes[jar.id]}</p>}
          {shelf.hiding[jar.id] && <p className={classes.mute}>hides: {shelf.hiding[jar.id]}</p>}
        </div>
      </div>
      <div className={classes.pair}>
        <NumberInput
          label="Left, ml"
          description="click the jar to mark its level"
          min={0}
          max={5000}
          decimalScale={2}
          value={j.leftMl}
          onChange={(v) => setJ({ ...j, leftMl: Number(v) })}
        />
        <NumberInput
          label="As sold, ml"
          description="a full one"
          min={0}
          max={5000}
          value={j.volumeMl}
          onChange={(v) => setJ({ ...j, volumeMl: Number(v) })}
        />
      </div>
      <div className={classes.pair}>
        <TextInput
          label="Swatch, dry"
          value={j.hex ?? ''}
          placeholder="#66704f"
          onChange={(e) => setJ({ ...j, hex: e.currentTarget.value })}
        />
        <Select
          label="State"
          allowDeselect={false}
          data={['fine', 'settled', 'half dry', 'expired', 'empty', 'ordered']}
          value={j.state}
          onChange={(state) => setJ({ ...j, state: (state ?? 'fine') as JarText['state'] })}
        />
      </div>
      <div className={classes.pair}>
        <TextInput label="Place" value={j.place ?? ''} onChange={(e) => setJ({ ...j, place: e.currentTarget.value })} />
        <TextInput
          label={j.state === 'ordered' ? 'Arrives' : 'Best before'}
          placeholder="2026-11-26"
          value={(j.state === 'ordered' ? j.arrives : j.bestBefore) ?? ''}
          onChange={(e) =>
            setJ(
              j.state === 'ordered'
                ? { ...j, arrives: e.currentTarget.value }
                : { ...j, bestBefore: e.currentTarget.value },
            )
          }
        />
      </div>
      <div className={classes.pair}>
        <NumberInput
          label="Own thinning, 1 :"
          placeholder="as its family"
          min={0}
          max={40}
          step={0.1}
          value={j.temper?.thinner ?? ''}
          onChange={(v) => setJ({ ...j, temper: { ...j.temper, thinner: v === '' ? undefined : Number(v) } })}
        />
        <TextInput
          label="Its temper"
          placeholder="crawls when thinned"
          value={j.temper?.note ?? ''}
          onChange={(e) => setJ({ ...j, temper: { ...j.temper, note: e.currentTarget.value } })}
        />
      </div>
      <PhotoSwatch onTake={(hex) => setJ({ ...j, hex })} />
      <div className={classes.row}>
        <Button type="submit" size="xs" disabled={!dirty} loading={tools.edit.isPending}>
          Keep
        </Button>
        <TakeOut what={said(jar)} onTake={() => tools.edit.mutate([{ op: 'dropJar', id: jar.id }])} />
      </div>
      {jar.hex && <Trials jar={jar} tools={tools} />}
    </form>
  );
}

/** A kept mix: what is in it, what is left, made again. */
function MixSheet({ id, tools, shelf }: { id?: string } & ShelfRoomProps) {
  const mix = shelf.shelf.mixes?.find((m) => m.id === id);
  const [left, setLeft] = useState<number | string>('');
  if (!mix) {
    return (
      <p className={classes.mute}>
        Choose a jar to say what is left in it, how it really dried, or how it wants to be thinned. Type a jar in one
        line to put it on the shelf.
      </p>
    );
  }
  const name = (jar: string) => shelf.shelf.jars?.find((j) => j.id === jar);
  return (
    <div className={classes.sheet}>
      <h2>{mix.name}</h2>
      <Said hex={mix.hex} beside={mix.hex} />
      <p>
        {mix.leftMl.toFixed(1)} ml left, made {mix.made}
        {mix.in ? `, in ${mix.in}` : ''}
      </p>
      {mix.for && mix.for.length > 0 && <p className={classes.mute}>for {mix.for.join('; ')}</p>}
      <ul className={classes.parts}>
        {mix.parts.map((p) => (
          <li key={p.jar}>
            <span style={{ background: name(p.jar)?.hex }} />
            {p.drops} drops of {name(p.jar) ? said(name(p.jar) as JarText) : 'a jar that is gone'}
          </li>
        ))}
      </ul>
      <p className={classes.mute}>
        A fresh mix differs a little from the old one: try it on scrap beside it before a touch-up.
      </p>
      <div className={classes.row}>
        <NumberInput
          aria-label="Left of the mix, ml"
          w={110}
          size="xs"
          placeholder="ml left"
          value={left}
          onChange={setLeft}
        />
        <Button
          size="xs"
          variant="outline"
          disabled={left === ''}
          onClick={() =>
            tools.edit.mutate([{ op: 'level', id: mix.id, ml: Number(left) }], { onSuccess: () => setLeft('') })
          }
        >
          So much is left
        </Button>
      </div>
      <div className={classes.row}>
        <Button
          size="xs"
          loading={tools.edit.isPending}
          onClick={() => tools.edit.mutate([{ op: 'make', mix: { ...mix } }])}
        >
          Mix it again
        </Button>
        <TakeOut what={mix.name} onTake={() => tools.edit.mutate([{ op: 'dropMix', id: mix.id }])} />
      </div>
      {tools.edit.isError && (
        <p role="alert" className="trouble">
          {words(tools.edit.error)}
        </p>
      )}
    </div>
  );
}
