import { NumberInput, TextInput } from '@mantine/core';

interface ShortProps {
  label: string;
  /** Its label is read out, not shown: what stands before it says what it is. */
  silent?: boolean;
  wide?: number;
  hint?: string;
}

const named = ({ label, silent }: ShortProps) => (silent ? { 'aria-label': label } : { label });

/** A short text in a row of fields. */
export function Word(props: ShortProps & { value: string; onTake: (v: string) => void }) {
  return (
    <TextInput
      size="xs"
      w={props.wide}
      {...named(props)}
      placeholder={props.hint}
      value={props.value}
      onChange={(e) => props.onTake(e.currentTarget.value)}
    />
  );
}

/** A number in a row of fields; nothing where it is emptied. */
export function Figure(
  props: ShortProps & {
    value: number | undefined;
    onTake: (v: number | undefined) => void;
    step?: number;
    min?: number;
  },
) {
  return (
    <NumberInput
      size="xs"
      w={props.wide}
      {...named(props)}
      placeholder={props.hint}
      step={props.step}
      min={props.min}
      value={props.value ?? ''}
      onChange={(v) => props.onTake(v === '' ? undefined : Number(v))}
    />
  );
}
