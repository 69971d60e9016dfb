import { Button, Checkbox, MultiSelect, NumberInput, Select, Textarea, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Kit, words } from '../api/client';
import { named, partsOf, said } from '../room/places';
import type { RoomProps } from '../room/props';
import { TakeOut } from '../room/TakeOut';
import classes from './Order.module.css';
import { Rulings, subjects } from './Rulings';

type Row = {
  id: string;
  name: string;
  versions?: string[] | null;
  what: string;
  put: (kit: Kit, versions: string[]) => Kit;
  decal?: NonNullable<Kit['decals']>[number];
  drop?: (kit: Kit) => Kit; // parts are taken out where the parts are
};

const blank = { name: '', kind: 'hole', on: '', mm: '' as number | string, more: false };

const swap = <T extends { id: string }>(list: T[] | undefined, id: string, versions: string[]) =>
  (list ?? []).map((x) => (x.id === id ? { ...x, versions } : x));

/** Which version carries what; the one chosen decides parts, holes, marks and decals. */
export function VersionRoom({ tools, data }: RoomProps) {
  const kit = data.build.kit ?? {};
  const versions = kit.versions ?? [];
  const { edit } = tools;
  const [name, setName] = useState('');
  const [line, setLine] = useState(blank);
  const [began] = useState(versions.length === 0); // an empty table begins with what fills it
  const [every, setEvery] = useState(false);
  const decal = line.kind === 'decal';
  const places = decal ? data.plan.zones.map((z) => z.zone).sort() : partsOf(data.plan);
  const place = places.includes(line.on) ? line.on : (places.find((p) => p.startsWith('hull')) ?? places[0] ?? '');
  const [paste, setPaste] = useState('');
  const set = (next: Kit) => edit.mutate([{ op: 'kit', kit: next }]);
  const groups: [string, Row[]][] = [
    [
      'Holes, openings, marks',
      (kit.features ?? []).map((f) => ({
        ...f,
        what:
          { hole: 'drill where used', opening: 'fill where not used', mark: 'shave where not used' }[f.kind] ?? f.kind,
        put: (k, v) => ({ ...k, features: swap(k.features, f.id, v) }),
        drop: (k) => ({ ...k, features: k.features?.filter((x) => x.id !== f.id) }),
      })),
    ],
    [
      'Parts',
      (kit.parts ?? []).map((p) => ({
        ...p,
        what: p.material,
        put: (k, v) => ({ ...k, parts: swap(k.parts, p.id, v) }),
      })),
    ],
    [
      'Decals',
      (kit.decals ?? []).map((d) => ({
        ...d,
        what: said(data.plan, d.zone),
        put: (k, v) => ({ ...k, decals: swap(k.decals, d.id, v) }),
        drop: (k) => ({ ...k, decals: k.decals?.filter((x) => x.id !== d.id) }),
        decal: d,
      })),
    ],
  ];
  const jobs = data.plan.jobs ?? [];
  const mine = edit.variables?.some((e) => e.op === 'kit' || e.op === 'version' || e.op === 'leaflet');
  return (
    <section aria-label="Version" className={classes.room}>
      <p className={classes.lead}>
        Choose the version you build: its parts, the holes to drill or fill, the marks to shave and its decals follow,
        and with them the steps.
      </p>
      {edit.isError && !tools.stale && mine && (
        <p role="alert" className="trouble">
          {words(edit.error)}
        </p>
      )}
      {versions.length > 0 && (
        <table className={classes.table} aria-label="Versions against equipment">
          <thead>
            <tr>
              <th>Equipment</th>
              {versions.map((v) => (
                <th key={v.id} data-chosen={v.id === kit.version || undefined} title={v.note}>
                  {/* biome-ignore lint/a11y/useSemanticElements: the head of a column that is chosen */}
                  <button
                    type="button"
                    role="radio"
                    aria-checked={v.id === kit.version}
                    className={classes.choose}
                    onClick={() => edit.mutate([{ op: 'version', text: v.id }])}
                  >
                    {v.name}
                  </button>
                  {versions.length > 1 && (
                    <TakeOut
                      what={`the version ${v.name}`}
                      inRow
                      onTake={() => {
                        const left = versions.filter((x) => x !== v);
                        const without = <T extends { versions?: string[] | null }>(list?: T[]) =>
                          list?.map((x) => ({ ...x, versions: x.versions?.filter((id) => id !== v.id) ?? null }));
                        set({
                          ...kit,
                          versions: left,
                          version: kit.version === v.id ? left[0]?.id : kit.version,
                          features: without(kit.features),
                          parts: without(kit.parts),
                          decals: without(kit.decals),
                        });
                      }}
                    />
                  )}
                </th>
              ))}
            </tr>
          </thead>
          {groups.map(([group, rows]) =>
            rows.length === 0 ? null : (
              <tbody key={group}>
                <tr>
                  <th scope="rowgroup" colSpan={1 + versions.length}>
                    {group}
                  </th>
                </tr>
                {rows
                  .filter((r) => r.versions || every || group !== 'Parts')
                  .map((r) => (
                    <tr key={r.id}>
                      <td>
                        {r.name} <span className={classes.lead}>{r.what}</span>{' '}
                        {r.decal && (
                          <button
                            type="button"
                            className="word"
                            aria-label={`${r.name}: ${r.decal.painted ? 'a decal after all' : 'paint it by stencil'}`}
                            onClick={() =>
                              set({
                                ...kit,
                                decals: kit.decals?.map((d) => (d === r.decal ? { ...d, painted: !d.painted } : d)),
                              })
                            }
                          >
                            {r.decal.painted ? 'stencilled' : 'a decal'}
                          </button>
                        )}{' '}
                        {r.drop && <TakeOut what={r.name} inRow onTake={() => r.drop && set(r.drop(kit))} />}
                      </td>
                      {versions.map((v) => {
                        const carried = !r.versions || r.versions.includes(v.id);
                        const all = r.versions ?? versions.map((x) => x.id);
                        return (
                          <td key={v.id} data-chosen={v.id === kit.version || undefined}>
                            <button
                              type="button"
                              className={classes.cell}
                              aria-label={`${r.name} on ${v.name}: ${carried ? 'carried' : 'not carried'}`}
                              onClick={() => set(r.put(kit, carried ? all.filter((x) => x !== v.id) : [...all, v.id]))}
                            >
                              <svg width="16" height="16" aria-hidden="true">
                                {carried ? (
                                  <rect x="2" y="2" width="12" height="12" fill="var(--ink)" />
                                ) : (
                                  <path d="M3 8h10" stroke="var(--mute)" />
                                )}
                              </svg>
                            </button>
                          </td>
                        );
                      })}
                    </tr>
                  ))}
              </tbody>
            ),
          )}
        </table>
      )}
      {versions.length > 0 && (kit.parts ?? []).some((p) => !p.versions) && (
        <button type="button" className="word" onClick={() => setEvery(!every)}>
          {every ? 'only parts that tell versions apart' : 'parts that every version carries'}
        </button>
      )}
      {jobs.length > 0 && (
        <div>
          <h3>This version asks for</h3>
          <ul className={classes.words}>
            {jobs.map((j) => (
              <li key={j.id}>
                {j.do} {j.name} ({j.assembly}
                {j.mm ? `, ${j.mm} mm` : ''}
                {j.inside ? ', from within' : ''})
              </li>
            ))}
          </ul>
        </div>
      )}
      <details className={classes.fold} open={began}>
        <summary>Add a version or a line</summary>
        <div className={classes.row}>
          <TextInput label="Version" value={name} onChange={(e) => setName(e.currentTarget.value)} />
          <Button
            size="xs"
            disabled={!name.trim()}
            onClick={() => {
              const id = crypto.randomUUID();
              set({ ...kit, versions: [...versions, { id, name: name.trim() }], version: kit.version || id });
              setName('');
            }}
          >
            Add the version
          </Button>
        </div>
        <div className={classes.row}>
          <TextInput
            label="Hole, opening, mark or decal"
            value={line.name}
            onChange={(e) => setLine({ ...line, name: e.currentTarget.value })}
          />
          <Select
            label="It is"
            w={110}
            data={['hole', 'opening', 'mark', 'decal']}
            value={line.kind}
            allowDeselect={false}
            onChange={(kind) => setLine({ ...line, kind: kind ?? 'hole' })}
          />
          <Select
            label="On"
            w={150}
            data={named(data.plan, places)}
            value={place}
            allowDeselect={false}
            searchable
            onChange={(on) => setLine({ ...line, on: on ?? '' })}
          />
          {!decal && (
            <NumberInput
              label={line.kind === 'hole' ? 'wide, mm' : 'deep, mm'}
              w={90}
              min={0}
              step={0.1}
              value={line.mm}
              onChange={(mm) => setLine({ ...line, mm })}
            />
          )}
          <Checkbox
            label={decal ? 'of thick film' : 'easier from within'}
            checked={line.more}
            onChange={(e) => setLine({ ...line, more: e.currentTarget.checked })}
          />
          <Button
            size="xs"
            disabled={!line.name.trim()}
            onClick={() => {
              const of = {
                id: crypto.randomUUID(),
                name: line.name.trim(),
                versions: kit.version ? [kit.version] : null,
              };
              set(
                decal
                  ? { ...kit, decals: [...(kit.decals ?? []), { ...of, zone: place, thick: line.more }] }
                  : {
                      ...kit,
                      features: [
                        ...(kit.features ?? []),
                        {
                          ...of,
                          kind: line.kind,
                          assembly: place,
                          mm: Number(line.mm) || undefined,
                          inside: line.more,
                        },
                      ],
                    },
              );
              setLine({ ...blank, kind: line.kind, on: line.on });
            }}
          >
            Add the line
          </Button>
        </div>
      </details>
      <details className={classes.fold}>
        <summary>
          The leaflet, {(kit.leaflet ?? []).length} {kit.leaflet?.length === 1 ? 'step' : 'steps'}
        </summary>
        <table className={classes.table} aria-label="The leaflet's steps">
          <tbody>
            {(kit.leaflet ?? []).map((l) => (
              <tr key={l.step + l.text}>
                <td>{l.step}</td>
                <td>
                  {l.text}
                  {l.note && <div className={classes.lead}>Note: {l.note}</div>}
                  {l.correction && (
                    <>
                      <div className={classes.lead}>Corrected: {l.correction}</div>
                      <MultiSelect
                        size="xs"
                        searchable
                        aria-label={`Step ${l.step} is about`}
                        placeholder={l.for?.length ? undefined : 'about what? it is told at its step'}
                        data={subjects(kit)}
                        value={l.for ?? []}
                        onChange={(v) =>
                          set({ ...kit, leaflet: kit.leaflet?.map((x) => (x === l ? { ...l, for: v } : x)) })
                        }
                      />
                    </>
                  )}
                </td>
                <td>{(l.parts ?? []).join(' ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Textarea
          label="Type or paste steps: step, text, parts, note, correction"
          autosize
          minRows={3}
          value={paste}
          placeholder={'step;text;parts;note;correction\n1;Lower hull;A4 A5;;'}
          onChange={(e) => setPaste(e.currentTarget.value)}
        />
        <Button
          size="xs"
          mt={6}
          disabled={!paste.trim()}
          onClick={() => edit.mutate([{ op: 'leaflet', text: paste }], { onSuccess: () => setPaste('') })}
        >
          Take these steps
        </Button>
        <TextInput
          mt={8}
          label="Which reference rules where they contradict each other"
          defaultValue={kit.decided ?? ''}
          onBlur={(e) =>
            e.currentTarget.value !== (kit.decided ?? '') && set({ ...kit, decided: e.currentTarget.value })
          }
        />
      </details>
      <Rulings kit={kit} onTake={(rulings) => set({ ...kit, rulings })} />
    </section>
  );
}
