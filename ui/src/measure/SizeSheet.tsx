import { Button, Select, TextInput } from '@mantine/core';
import { Fragment, useRef, useState } from 'react';
import type { DimensionEdit, Edit, SizeLine } from '../api/client';
import { Trouble } from '../api/Trouble';
import type { BuildTools } from '../api/useBuild';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import { Typed } from '../room/Typed';
import { Why } from '../why/Why';
import { Cell } from './Cell';
import { GearBlock } from './GearBlock';
import classes from './Measure.module.css';
import { PasteSizes } from './PasteSizes';

export const groups = ['hull', 'turret', 'gun', 'running gear', 'fittings'];

const set = (dimension: DimensionEdit): Edit => ({ op: 'dimension', dimension });

/** Named dimensions: real, on the model, what the caliper says, and how far off. */
export function SizeSheet(props: RoomProps) {
  const { tools, data, sizing, onSizing, onPlace } = props;
  const { plan } = data;
  const [pasting, setPasting] = useState(false);
  return (
    <section aria-label="Size sheet">
      <div className={classes.headRow}>
        <Typed label="Scale" value={plan.scale} tools={tools} edit={(text) => ({ op: 'scale', text })} />
        <span className={classes.gap} />
        <button type="button" className="word" onClick={() => setPasting(!pasting)} aria-expanded={pasting}>
          Paste a table
        </button>
        <a className={classes.link} href={`/api/builds/${plan.build}/sheets/sizes.csv`} download>
          Save as CSV
        </a>
      </div>
      {pasting && <PasteSizes tools={tools} onDone={() => setPasting(false)} />}
      <div className={classes.sheet}>
        <div className={classes.columns}>
          <span>What</span>
          <span className="real">Real</span>
          <span>On model</span>
          <span>In the kit</span>
          <span title="One standard deviation of the measurement">± mm</span>
          <span>Off</span>
          <span>Off, %</span>
          <span />
        </div>
        {groups
          .filter((g) => plan.sizes.some((l) => l.group === g))
          .map((group) => (
            <Fragment key={group}>
              <h3 className={classes.group}>{group}</h3>
              {plan.sizes
                .filter((l) => l.group === group)
                .map((l) => (
                  <Row
                    key={l.key}
                    line={l}
                    tools={tools}
                    open={sizing === l.key}
                    onSizing={onSizing}
                    onPlace={() => onPlace(l)}
                  />
                ))}
            </Fragment>
          ))}
        <NewRow tools={tools} />
      </div>
      <p className={classes.mute}>
        Enter goes down, Tab goes on, Escape takes back. A bare number is in mm, an overall size in metres. The line you
        work on is drawn on the plate.
      </p>
      <GearBlock {...props} />
    </section>
  );
}

interface RowProps {
  line: SizeLine;
  tools: BuildTools;
  open: boolean;
  onSizing: (key?: string) => void;
  onPlace: () => void;
}

function Row({ line, tools, open, onSizing, onPlace }: RowProps) {
  const [error, setError] = useState<unknown>();
  const [more, setMore] = useState(false);
  const take = (change: DimensionEdit) =>
    tools.edit.mutateAsync([set({ id: line.key, ...change })]).then(
      () => setError(undefined),
      (e) => {
        setError(e);
        throw e;
      },
    );
  const quiet = (change: DimensionEdit) => take(change).catch(() => undefined);
  const look = () => onSizing(line.key);
  const { kit, thick } = line;
  return (
    <div className={classes.line} data-open={open || undefined} data-key={line.key}>
      <div className={classes.cells}>
        <Cell
          label={`${line.name}, name`}
          column="name"
          value={line.name}
          disabled={line.fixed}
          onFocus={look}
          onTake={(name) => take({ name })}
        />
        <Cell
          label={`${line.name}, real`}
          column="real"
          align="right"
          value={line.typed}
          onFocus={look}
          onTake={(real) => take({ real })}
        />
        <Why why={line.why} name={`${line.name} on the model`}>
          <span className="model">{line.model}</span>
        </Why>
        <Cell
          label={`${line.name}, in the kit`}
          column="kit"
          align="right"
          value={kit?.typed ?? ''}
          placeholder="mm"
          onFocus={look}
          onTake={(text) => take({ kit: text })}
        />
        <Cell
          label={`${line.name}, plus minus`}
          column="plus"
          align="right"
          value={kit ? String(kit.plusMinusMm) : ''}
          disabled={!kit}
          onFocus={look}
          onTake={(plusMinus) => take({ plusMinus })}
        />
        {kit ? (
          <>
            <Why why={kit.why} name={`${line.name}, deviation`}>
              <span className="model" data-told={kit.told || undefined}>
                {kit.model}
              </span>
            </Why>
            <span className={kit.told ? classes.told : undefined}>
              {thick ? `${thick.factor.toFixed(1)} ×` : kit.percent}
            </span>
          </>
        ) : (
          <>
            <span />
            <span />
          </>
        )}
        <button
          type="button"
          className="plain"
          aria-label={`${line.name}: more`}
          aria-expanded={more}
          onClick={() => setMore(!more)}
        >
          {more ? '▴' : '▾'}
        </button>
      </div>
      {(open || more) && (
        <p className={classes.under}>
          <span className="real">
            {line.real} = {line.imperial}
          </span>
          {kit && <span className="real"> · off {kit.real} at full size</span>}
          {kit?.from === 'leaflet' && <span> · from the leaflet</span>}
          {line.source && <span> · {line.source}</span>}
          {line.decision && <span> · decided: {line.decision.act}</span>}
        </p>
      )}
      {thick && (
        <p className={classes.under}>
          <Why why={thick.why} name={`${line.name}, over scale`}>
            {thick.words}
          </Why>
        </p>
      )}
      <Trouble error={error} />
      {more && !line.fixed && (
        <div className={classes.more}>
          <Select
            size="xs"
            label="Part"
            data={groups}
            value={line.group}
            allowDeselect={false}
            onChange={(group) => group && quiet({ group })}
          />
          <Select
            size="xs"
            label="Runs along"
            data={[
              { value: '', label: 'not drawn' },
              { value: 'length', label: 'the length' },
              { value: 'width', label: 'the width' },
              { value: 'height', label: 'the height' },
              { value: 'thickness', label: 'a thickness' },
            ]}
            value={line.along}
            allowDeselect={false}
            onChange={(along) => quiet({ along: along ?? '' })}
          />
          {line.along === 'thickness' && (
            <Select
              size="xs"
              label="Seen"
              data={[
                { value: 'edge', label: 'its edge only' },
                { value: 'area', label: 'its face too' },
              ]}
              value={line.seen || 'edge'}
              allowDeselect={false}
              onChange={(seen) => quiet({ seen: seen ?? 'edge' })}
            />
          )}
          <Select
            size="xs"
            label="Kit size from"
            disabled={!kit}
            data={[
              { value: 'caliper', label: 'the caliper' },
              { value: 'leaflet', label: 'the leaflet' },
            ]}
            value={kit?.from ?? 'caliper'}
            allowDeselect={false}
            onChange={(from) => quiet({ from: from ?? 'caliper' })}
          />
          <Source line={line} onTake={(source) => quiet({ source })} />
          <div className={classes.acts}>
            <button type="button" className="word" onClick={onPlace}>
              Place it on the plate
            </button>
            <TakeOut what={line.name} onTake={() => tools.edit.mutate([{ op: 'dropDimension', text: line.key }])} />
          </div>
        </div>
      )}
    </div>
  );
}

function Source({ line, onTake }: { line: SizeLine; onTake: (text: string) => void }) {
  const [text, setText] = useState(line.source);
  return (
    <TextInput
      size="xs"
      label="Source of the real size"
      placeholder="drawing, book, photograph"
      value={text}
      onChange={(e) => setText(e.currentTarget.value)}
      onBlur={() => text !== line.source && onTake(text)}
    />
  );
}

/** The last line of the sheet: Enter in its last cell adds it and waits for the next. */
function NewRow({ tools }: { tools: BuildTools }) {
  const empty = { group: 'hull', name: '', real: '', kit: '' };
  const [row, setRow] = useState(empty);
  const [error, setError] = useState<unknown>();
  const first = useRef<HTMLInputElement>(null);
  const add = () =>
    tools.edit
      .mutateAsync([
        set({ group: row.group, name: row.name, real: row.real, ...(row.kit.trim() ? { kit: row.kit } : {}) }),
      ])
      .then(
        () => {
          setRow({ ...empty, group: row.group });
          setError(undefined);
          first.current?.focus();
        },
        (e) => setError(e),
      );
  const input = (key: 'name' | 'real' | 'kit', label: string, placeholder: string) => (
    <input
      ref={key === 'name' ? first : undefined}
      className={classes.cell}
      aria-label={label}
      placeholder={placeholder}
      data-align={key === 'name' ? undefined : 'right'}
      data-column={key}
      value={row[key]}
      autoComplete="off"
      onChange={(e) => setRow({ ...row, [key]: e.target.value })}
    />
  );
  return (
    <form
      className={classes.newRow}
      aria-label="New dimension"
      onSubmit={(e) => {
        e.preventDefault();
        void add();
      }}
    >
      <div className={classes.cells}>
        {input('name', 'New dimension, name', 'new: what it is')}
        {input('real', 'New dimension, real', '2.88 m')}
        <Select
          size="xs"
          aria-label="New dimension, part"
          data={groups}
          value={row.group}
          allowDeselect={false}
          onChange={(group) => group && setRow({ ...row, group })}
        />
        {input('kit', 'New dimension, in the kit', 'measure')}
        <Button type="submit" size="compact-sm" disabled={!row.name || !row.real} className={classes.addButton}>
          Add
        </Button>
      </div>
      <Trouble error={error} />
    </form>
  );
}
