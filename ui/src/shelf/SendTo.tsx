import { Button, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { type RecipeLine, words } from '../api/client';
import { useBuild } from '../api/useBuild';
import { wayTo } from '../room/stages';
import classes from './Shelf.module.css';
import type { ShelfTools } from './useShelf';

/** Makes a recipe and keeps it; lays a colour of a scheme from it. */
export function SendTo({ line, tools, build }: { line: RecipeLine; tools: ShelfTools; build: string }) {
  const [name, setName] = useState('');
  const [made, setMade] = useState<string>();
  const make = () => {
    const id = crypto.randomUUID();
    const parts = line.parts.map((p) => ({ jar: p.jar, drops: p.drops }));
    tools.edit.mutate([{ op: 'make', id, mix: { id, name: name.trim(), parts, hex: line.hex, made: '', leftMl: 0 } }], {
      onSuccess: () => setMade(id),
    });
  };
  return (
    <section aria-label="Keep it" className={classes.keep}>
      <div className={classes.row}>
        <TextInput
          aria-label="Name of the mix"
          placeholder="name of the mix"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button disabled={name.trim() === ''} loading={tools.edit.isPending} onClick={make}>
          Mix it and keep it
        </Button>
      </div>
      {tools.edit.isError && (
        <p role="alert" className="trouble">
          {words(tools.edit.error)}
        </p>
      )}
      {made && <p role="status">It is kept, and its drops are taken from the jars.</p>}
      {made && build && <Lay build={build} mix={made} />}
    </section>
  );
}

/** Lays a colour of a build's scheme from a mix. */
function Lay({ build, mix }: { build: string; mix: string }) {
  const { state, edit } = useBuild(build);
  const [at, setAt] = useState<string>('0');
  const scheme = state.data?.build.scheme;
  if (!scheme) {
    return null;
  }
  const taken = scheme.colours[Number(at)]?.jar === mix;
  return (
    <div className={classes.row}>
      <Select
        aria-label="Colour of the scheme"
        w={190}
        allowDeselect={false}
        data={scheme.colours.map((c, i) => ({ value: String(i), label: c.name }))}
        value={at}
        onChange={(v) => setAt(v ?? '0')}
      />
      <Button
        variant="outline"
        loading={edit.isPending}
        disabled={taken}
        onClick={() =>
          edit.mutate([
            {
              op: 'scheme',
              scheme: { ...scheme, colours: scheme.colours.map((c, i) => (String(i) === at ? { ...c, jar: mix } : c)) },
            },
          ])
        }
      >
        Spray it with this
      </Button>
      {taken && (
        <Link className="word" to={wayTo(build, 'Paint', 'Scheme')}>
          See the vehicle
        </Link>
      )}
      {edit.isError && (
        <p role="alert" className="trouble">
          {words(edit.error)}
        </p>
      )}
    </div>
  );
}
