import { Button, FileButton, TextInput } from '@mantine/core';
import { useState } from 'react';
import { words } from '../api/client';
import { Jar } from './Jar';
import { JarSheet } from './JarSheet';
import { MixSheet } from './MixSheet';
import classes from './Shelf.module.css';
import { type ShelfRoomProps, said } from './said';
import { useLike } from './useShelf';

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
            placeholder={tools.state.data?.example}
            value={line}
            onChange={(e) => setLine(e.currentTarget.value)}
            error={lineRefused ? words(tools.edit.error) : undefined}
          />
          <Button type="submit" loading={tools.edit.isPending} disabled={line.trim() === ''}>
            Put on the shelf
          </Button>
          <TextInput
            aria-label="Search"
            placeholder="search, or a colour, #…"
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
