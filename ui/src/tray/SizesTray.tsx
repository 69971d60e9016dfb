import { Button, NumberInput, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { type Edit, Refusal, words } from '../api/client';
import type { BuildTools } from '../build/useBuild';
import { Why } from '../why/Why';
import type { TrayProps } from './Tray';
import classes from './Tray.module.css';

/** Real sizes in, kit sizes out, and what the track takes. */
export function SizesTray({ tools, data }: TrayProps) {
  const { plan, build } = data;
  return (
    <section aria-label="Sizes">
      {plan.sizes.map((s) => (
        <div key={s.key} className={classes.size}>
          <Typed
            label={`${s.name}, real`}
            value={s.typed}
            tools={tools}
            edit={(text) => ({ op: s.key, text })}
            description={`read as ${s.real} = ${s.imperial}`}
          />
          <div className={classes.kit}>
            <small>on the model</small>
            <Why why={s.why} name={`${s.name} on the model`}>
              <span className="model">{s.model}</span>
            </Why>
          </div>
        </div>
      ))}
      <div className={classes.size}>
        <Typed label="Scale" value={plan.scale} tools={tools} edit={(text) => ({ op: 'scale', text })} />
        <span />
      </div>
      {plan.gear && (
        <div className={classes.pair}>
          <Why why={plan.gear.why} name="Links per side">
            <span className={classes.big} data-links={plan.gear.links}>
              {plan.gear.links}
            </span>
          </Why>
          <span>track links a side</span>
          <span className="model">{plan.gear.slack}</span>
          <span>slack on a taut loop of {plan.gear.loop}</span>
          <Supplied
            kept={build.link.supplied ?? 0}
            onKeep={(n) => tools.edit.mutate([{ op: 'link', link: { ...build.link, supplied: n } }])}
          />
          <span>links in the kit a side. {plan.gear.verdict}</span>
        </div>
      )}
    </section>
  );
}

/** Taken when one leaves the field or presses Enter, not at every figure. */
function Supplied({ kept, onKeep }: { kept: number; onKeep: (links: number) => void }) {
  const [links, setLinks] = useState<number | string>(kept);
  useEffect(() => setLinks(kept), [kept]);
  const take = () => Number(links) !== kept && onKeep(Number(links) || 0);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        take();
      }}
    >
      <NumberInput
        size="xs"
        w={86}
        min={0}
        max={1000}
        allowDecimal={false}
        aria-label="Links the kit supplies for each side"
        value={links}
        onChange={setLinks}
        onBlur={take}
      />
    </form>
  );
}

interface TypedProps {
  label: string;
  value: string;
  description?: string;
  tools: BuildTools;
  edit: (text: string) => Edit;
}

/** A field that keeps what was typed until it is taken; a refusal stands beneath it. */
export function Typed({ label, value, description, tools, edit }: TypedProps) {
  const [text, setText] = useState(value);
  const [error, setError] = useState<unknown>();
  const [kept, setKept] = useState(value);
  useEffect(() => {
    // A newer value from elsewhere fills the field only when nobody is typing in it.
    setText((now) => (now === kept ? value : now));
    setKept(value);
  }, [value, kept]);
  const dirty = text !== value;
  const stale = error instanceof Refusal && error.problem.current !== undefined;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        tools.edit.mutate([edit(text)], { onSuccess: () => setError(undefined), onError: setError });
      }}
    >
      <TextInput
        label={label}
        description={description}
        value={text}
        onChange={(e) => {
          setText(e.currentTarget.value);
          setError(undefined);
        }}
        error={error && !stale ? words(error) : undefined}
        rightSectionWidth={dirty ? 62 : 0}
        rightSection={
          dirty ? (
            <Button type="submit" size="compact-sm" variant="filled" loading={tools.edit.isPending}>
              {stale ? 'Again' : 'Set'}
            </Button>
          ) : null
        }
      />
    </form>
  );
}
