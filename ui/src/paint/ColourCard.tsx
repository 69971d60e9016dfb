import { ColorInput, MultiSelect, NumberInput, Select, TextInput } from '@mantine/core';
import type { BuildState, Pattern } from '../api/client';
import { choices, isScheme } from '../room/places';
import classes from '../room/room.module.css';
import { TakeOut } from '../room/TakeOut';
import { PotSelect } from './PotSelect';
import own from './Scheme.module.css';
import type { Way } from './useScheme';

type Colour = Pattern['colours'][number];

interface ColourCardProps {
  at: number;
  colour: Colour;
  scheme: Pattern;
  data: BuildState;
  families: Way[];
  open: boolean;
  onOpen: () => void;
  onChange: (change: Partial<Colour>) => void;
  onSooner?: () => void;
  onLater?: () => void;
  onTakeOut?: () => void;
}

/** One colour: what it is, how it is laid, where. */
export function ColourCard(props: ColourCardProps) {
  const { at, colour: c, scheme, data, families, open, onChange } = props;
  const way = families.find((f) => f.id === (c.family || 'bands'));
  const told = data.plan.colours[at];
  const width = c.width || (way?.id === 'bands' ? scheme.width : way?.width) || 0;
  const soft = c.feather ?? (way?.id === 'bands' ? scheme.feather : way?.feather) ?? 0;
  const edge = soft > 0 ? `soft by ${Math.round(soft)} mm` : 'hard edges';
  return (
    <article className={own.colour} aria-label={c.name}>
      <button type="button" className={`plain ${own.line}`} aria-expanded={open} onClick={props.onOpen}>
        <i className={own.swatch} style={{ background: c.hex }} />
        <span>
          {c.name}
          <small>
            {at === 0
              ? 'first, takes what is left'
              : `${way?.name ?? '…'}${width ? `, ${Math.round(width)} mm` : ''}, ${edge}`}
          </small>
        </span>
        <span className={own.share}>{told ? `${(100 * told.share).toFixed(1)} %` : ''}</span>
      </button>
      {open && (
        <div className={classes.form}>
          <div className={classes.two}>
            <TextInput label="Name" value={c.name} onChange={(e) => onChange({ name: e.currentTarget.value })} />
            <ColorInput
              label="Swatch"
              aria-label={`Swatch of ${c.name}`}
              format="hex"
              value={c.hex}
              onChange={(hex) => onChange({ hex, jar: hex === c.hex ? c.jar : '' })}
              withEyeDropper={false}
            />
          </div>
          <PotSelect
            label={`What ${c.name} is sprayed from`}
            family={data.build.layers.find(isScheme)?.family}
            value={c.jar}
            line={data.plan.pots.find((p) => p.colour === at + 1)}
            onTake={(jar, of) => onChange({ jar, ...(of?.hex ? { hex: of.hex } : {}) })}
          />
          {at > 0 && <Laying {...props} way={way} width={width} soft={soft} />}
          {at > 0 && (
            <div className={classes.row}>
              <button type="button" className="word" disabled={!props.onSooner} onClick={props.onSooner}>
                Sooner
              </button>
              <button type="button" className="word" disabled={!props.onLater} onClick={props.onLater}>
                Later
              </button>
              <TakeOut what={c.name} onTake={() => props.onTakeOut?.()} />
            </div>
          )}
        </div>
      )}
    </article>
  );
}

/** How a colour is laid: family, share, sizes at full size, zones. */
function Laying({
  colour: c,
  data,
  families,
  onChange,
  way,
  width,
  soft,
}: ColourCardProps & { way?: Way; width: number; soft: number }) {
  return (
    <>
      <div className={classes.two}>
        <Select
          label="How it is laid"
          data={families.map((f) => ({ value: f.id, label: f.name }))}
          value={way?.id ?? null}
          allowDeselect={false}
          description={way?.note}
          inputWrapperOrder={['label', 'input', 'description']}
          onChange={(family) =>
            family &&
            onChange({
              family: family as Colour['family'],
              width: 0,
              feather: undefined,
              bend: undefined,
              frame: 0,
            })
          }
        />
        {!way?.fixed && (
          <NumberInput
            label="Share, %"
            aria-label={`Share of ${c.name} in per cent`}
            min={1}
            max={95}
            value={Math.round(c.share * 1000) / 10}
            onChange={(v) => onChange({ share: Number(v) / 100 })}
          />
        )}
      </div>
      {way && way.width > 0 && (
        <div className={classes.two}>
          <NumberInput
            label="Width, real mm"
            description={`${(width / data.build.scale).toFixed(1)} mm on the model`}
            inputWrapperOrder={['label', 'input', 'description']}
            min={10}
            max={5000}
            step={10}
            value={Math.round(width)}
            onChange={(v) => onChange({ width: Number(v) })}
          />
          <NumberInput
            label="Soft edge, real mm"
            description={
              soft > 0 ? `${(soft / data.build.scale).toFixed(1)} mm on the model` : 'hard: masked or brushed'
            }
            inputWrapperOrder={['label', 'input', 'description']}
            min={0}
            max={500}
            step={5}
            value={Math.round(soft)}
            onChange={(v) => onChange({ feather: Number(v) })}
          />
        </div>
      )}
      <div className={classes.two}>
        {way?.bends && (
          <NumberInput
            label={`${way.bends[0]?.toUpperCase()}${way.bends.slice(1)}, 0 to 1`}
            min={0}
            max={1}
            step={0.1}
            decimalScale={2}
            value={c.bend ?? way.bend}
            onChange={(v) => onChange({ bend: Number(v) })}
          />
        )}
        {way?.angled && (
          <NumberInput
            label="Angle from upright, °"
            min={-90}
            max={90}
            step={15}
            value={c.angle ?? 0}
            onChange={(v) => onChange({ angle: Number(v) })}
          />
        )}
        {way?.framed && (
          <NumberInput
            label="Frame, real mm"
            min={0}
            max={500}
            step={10}
            value={c.frame || 60}
            onChange={(v) => onChange({ frame: Number(v) })}
          />
        )}
        <Select
          label="Strength"
          data={[
            { value: '', label: 'full' },
            { value: 'thin', label: 'thin on purpose' },
            { value: 'rubbed', label: 'rubbed back' },
          ]}
          allowDeselect={false}
          value={c.strength ?? ''}
          onChange={(strength) => onChange({ strength: (strength ?? '') as Colour['strength'] })}
        />
        <NumberInput
          label="Laid by chance, number"
          min={0}
          max={9007199254740991}
          value={c.seed ?? 0}
          onChange={(v) => onChange({ seed: Number(v) })}
        />
      </div>
      <MultiSelect
        label="Only on"
        placeholder={c.zones?.length ? undefined : 'everywhere'}
        data={choices(data.plan)}
        value={c.zones ?? []}
        searchable
        onChange={(zones) => onChange({ zones })}
      />
      <MultiSelect
        label="Keeps off"
        data={choices(data.plan)}
        value={c.without ?? []}
        searchable
        onChange={(without) => onChange({ without })}
      />
    </>
  );
}
