import {
  Button,
  Checkbox,
  ColorInput,
  MultiSelect,
  NumberInput,
  SegmentedControl,
  Select,
  TextInput,
} from '@mantine/core';
import { useState } from 'react';
import { type Layer, words } from '../api/client';
import { useFamilies, useLibrary } from '../api/useLibrary';
import { choices, isScheme, liesOn, saidAll } from '../room/places';
import type { RoomProps } from '../room/props';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import { PotSelect } from './PotSelect';
import { Touches } from './Touches';
import { Worked } from './Worked';

/** The stack from the top down, as it lies on the model; picked zones filter it. */
export function LayersTray({ tools, data, zone, onLayer, marks }: RoomProps) {
  const [open, setOpened] = useState<string>();
  const setOpen = (layer?: string) => {
    setOpened(layer);
    onLayer(layer === 'new' ? undefined : layer);
    marks.setMarking(undefined);
  };
  const { layers } = data.build;
  const of = data.plan.zones.find((z) => z.zone === zone);
  const families = useFamilies();
  const kinds = useLibrary().data?.layers ?? [];
  // Kinds come in the usual working order: what follows on what lies on top is begun with.
  const next = (kinds[kinds.findIndex((k) => k.id === layers.at(-1)?.kind) + 1] ?? kinds[0])?.fresh;
  // What a layer is worked wet into carries the group's name too.
  const joined = (layer: Layer) =>
    layers
      .filter((o) => o.id === layer.together && o.together !== o.id)
      .map((o) => ({ op: 'change' as const, layer: { ...o, together: o.id } }));
  // Tracks that no colour of their own covers yet.
  const track = data.plan.zones.find((z) => z.zone.endsWith('.track'))?.zone;
  const tracked = track && !layers.some((l) => l.kind === 'colour' && l.hex && liesOn(l.zones, track));
  const refused =
    tools.edit.isError && !tools.stale && tools.edit.variables?.some((e) => e.op === 'layers' || e.op === 'tracks');
  return (
    <section aria-label="Layers">
      <div className={classes.row}>
        <Button
          size="xs"
          variant={open === 'new' ? 'filled' : 'outline'}
          onClick={() => setOpen(open === 'new' ? undefined : 'new')}
        >
          Add a layer on top
        </Button>
        {tracked && (
          <Button
            size="xs"
            variant="outline"
            disabled={tools.edit.isPending}
            onClick={() => tools.edit.mutate([{ op: 'tracks' }])}
          >
            Paint and wear the tracks
          </Button>
        )}
        {of && <span className={classes.mute}>faded ones do not reach {data.plan.places[of.zone]}</span>}
      </div>
      {open === 'new' && next && (
        <LayerForm
          layer={{ ...next, zones: of ? [of.part] : [] }}
          data={data}
          act="Add"
          busy={tools.edit.isPending}
          onTake={(layer) =>
            tools.edit.mutate([{ op: 'layers', layers: [{ op: 'insert', layer }, ...joined(layer)] }], {
              onSuccess: () => setOpen(undefined),
            })
          }
        />
      )}
      {refused && (
        <p role="alert" className={classes.error}>
          {words(tools.edit.error)}
        </p>
      )}
      <ol className={classes.layers} reversed>
        {[...layers].reverse().map((layer) => {
          const at = layers.indexOf(layer);
          const above = layers[at + 2]?.id;
          return (
            <li key={layer.id} className={classes.layer} data-away={(of && !liesOn(layer.zones, of.zone)) || undefined}>
              <button
                type="button"
                className="plain"
                aria-expanded={open === layer.id}
                onClick={() => setOpen(open === layer.id ? undefined : layer.id)}
              >
                <svg width="22" height="22" aria-hidden="true">
                  <rect
                    width="22"
                    height="22"
                    fill={layer.hex || (layer.kind === 'colour' ? data.plan.colours[0]?.hex : 'none')}
                    stroke="var(--ink)"
                  />
                  {layer.kind === 'clear' && <path d="M3 19 19 3" stroke="var(--ink)" />}
                </svg>
                <span>
                  {layer.name}
                  <small>
                    {kinds.find((k) => k.id === layer.kind)?.works
                      ? 'worked on what lies there'
                      : `${
                          data.plan.pots.find((p) => p.layer === layer.id && p.pot)?.words ??
                          families.data?.find((f) => f.id === layer.family)?.name ??
                          ''
                        }, ${layer.applied}${layer.sheen ? `, ${layer.sheen}` : ''}`}
                  </small>
                </span>
                <small>{saidAll(data.plan, layer.zones)}</small>
              </button>
              {open === layer.id && (
                <>
                  <Worked
                    build={data.build.id}
                    layer={layer}
                    argued={data.plan.argued.find((a) => a.layer === layer.id)}
                    tools={tools}
                  />
                  {!isScheme(layer) && <Touches layer={layer} data={data} tools={tools} marks={marks} />}
                  <LayerForm
                    key={`${layer.technique} ${layer.amount}`}
                    layer={layer}
                    data={data}
                    act="Change"
                    busy={tools.edit.isPending}
                    onTake={(next) =>
                      tools.edit.mutate([{ op: 'layers', layers: [{ op: 'change', layer: next }, ...joined(next)] }])
                    }
                  />
                  <div className={classes.row}>
                    <button
                      type="button"
                      className="word"
                      disabled={at === layers.length - 1}
                      onClick={() =>
                        tools.edit.mutate([{ op: 'layers', layers: [{ op: 'move', id: layer.id, before: above }] }])
                      }
                    >
                      Later
                    </button>
                    <button
                      type="button"
                      className="word"
                      disabled={at === 0}
                      onClick={() =>
                        tools.edit.mutate([
                          { op: 'layers', layers: [{ op: 'move', id: layer.id, before: layers[at - 1]?.id }] },
                        ])
                      }
                    >
                      Sooner
                    </button>
                    <TakeOut
                      what={layer.name}
                      onTake={() => tools.edit.mutate([{ op: 'layers', layers: [{ op: 'drop', id: layer.id }] }])}
                    />
                  </div>
                </>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

interface LayerFormProps {
  layer: Layer;
  data: RoomProps['data'];
  act: string;
  busy: boolean;
  onTake: (layer: Layer) => void;
}

function LayerForm({ layer, data, act, busy, onTake }: LayerFormProps) {
  const [l, setL] = useState(layer);
  const families = useFamilies();
  const kinds = useLibrary().data?.layers ?? [];
  const works = kinds.find((k) => k.id === l.kind)?.works;
  const family = families.data?.find((f) => f.id === l.family);
  const at = data.build.layers.findIndex((o) => o.id === layer.id);
  // A wet group is worked in one session: only what lies right below can be joined.
  const wet = data.build.layers
    .slice(0, at < 0 ? undefined : at)
    .slice(-1)
    .filter((o) => kinds.find((k) => k.id === o.kind)?.wet);
  return (
    <form
      className={classes.form}
      aria-label={`${act} layer`}
      onSubmit={(e) => {
        e.preventDefault();
        onTake(l);
      }}
    >
      <div className={classes.two}>
        <TextInput label="Name" value={l.name} onChange={(e) => setL({ ...l, name: e.currentTarget.value })} />
        <Select
          label="What it is"
          data={kinds.map((k) => ({ value: k.id, label: k.name }))}
          value={l.kind}
          allowDeselect={false}
          onChange={(kind) => {
            const usual = kinds.find((k) => k.id === kind)?.fresh;
            if (usual) {
              const named = kinds.some((k) => k.name === l.name);
              const { name, ...rest } = usual;
              setL(
                layer.id ? { ...l, kind: usual.kind } : { ...l, ...rest, zones: l.zones, name: named ? name : l.name },
              );
            }
          }}
        />
      </div>
      {l.kind !== 'decals' && !works && !isScheme(l) && (
        <PotSelect
          label="Jar"
          family={l.family}
          value={l.jar}
          line={layer.id && l.jar === layer.jar ? data.plan.pots.find((p) => p.layer === layer.id) : undefined}
          onTake={(jar, of) =>
            setL({ ...l, jar, ...(of ? { family: of.family } : {}), ...(of?.hex ? { hex: of.hex } : {}) })
          }
        />
      )}
      {!works && (
        <Select
          label="Product"
          searchable
          allowDeselect={false}
          data={families.data?.map((f) => ({ value: f.id, label: f.name })) ?? []}
          value={l.family}
          onChange={(family) => setL({ ...l, family: family ?? l.family, jar: family === l.family ? l.jar : '' })}
        />
      )}
      <div className={classes.two}>
        <SegmentedControl
          aria-label="How it is put on"
          value={l.applied}
          onChange={(applied) => setL({ ...l, applied: applied as Layer['applied'] })}
          data={[
            { value: 'brushed', label: 'Brushed' },
            { value: 'misted', label: 'Misted' },
          ]}
        />
        <NumberInput
          aria-label="Coats"
          leftSection="×"
          min={1}
          max={20}
          value={l.coats}
          onChange={(v) => setL({ ...l, coats: Number(v) })}
        />
      </div>
      <MultiSelect
        label="Where"
        placeholder={l.zones?.length ? undefined : 'everywhere'}
        data={choices(data.plan)}
        value={l.zones ?? []}
        onChange={(zones) => setL({ ...l, zones })}
        searchable
      />
      <div className={classes.two}>
        <ColorInput
          aria-label="Swatch"
          format="hex"
          value={l.hex ?? ''}
          onChange={(hex) => setL({ ...l, hex, jar: hex === l.hex ? l.jar : '' })}
          withEyeDropper={false}
        />
        <Select
          aria-label="Sheen"
          data={[
            { value: '', label: 'sheen of the product' },
            { value: 'gloss', label: 'gloss' },
            { value: 'satin', label: 'satin' },
            { value: 'matt', label: 'matt' },
          ]}
          value={l.sheen ?? ''}
          onChange={(sheen) => setL({ ...l, sheen: (sheen ?? '') as Layer['sheen'] })}
        />
      </div>
      <div className={classes.two}>
        {family?.perMm && (
          <NumberInput
            label="Deep, mm on the model"
            placeholder="a film"
            min={0}
            max={20}
            step={0.5}
            value={l.depthMm || ''}
            onChange={(v) => setL({ ...l, depthMm: Number(v) })}
          />
        )}
        {family?.brings === 'carrier' && (
          <Select
            label="What it is laid with"
            data={[
              { value: '', label: 'as is usual for it' },
              { value: 'water', label: 'water' },
              { value: 'white_spirit', label: 'white spirit' },
              { value: 'alcohol', label: 'alcohol' },
            ]}
            value={l.carrier ?? ''}
            onChange={(carrier) => setL({ ...l, carrier: (carrier ?? '') as Layer['carrier'] })}
          />
        )}
        {wet.length > 0 && (
          <Select
            label="Worked wet into"
            placeholder="nothing"
            clearable
            data={wet.map((o) => ({ value: o.together || o.id, label: o.name }))}
            value={l.together && l.together !== l.id ? l.together : null}
            onChange={(together) => setL({ ...l, together: together ?? '' })}
          />
        )}
      </div>
      {l.kind === 'decals' && (
        <Checkbox
          label="Worked down with softener"
          checked={Boolean(l.softener)}
          onChange={(e) => setL({ ...l, softener: e.currentTarget.checked })}
        />
      )}
      <NumberInput
        label="Pinned wait after the layer below, minutes"
        placeholder="as long as it needs"
        min={0}
        value={l.waitMin ?? ''}
        onChange={(v) => setL({ ...l, waitMin: v === '' ? undefined : Number(v) })}
      />
      <Button type="submit" size="xs" loading={busy}>
        {act} this layer
      </Button>
    </form>
  );
}
