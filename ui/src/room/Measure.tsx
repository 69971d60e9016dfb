import { NumberInput } from '@mantine/core';
import { useState } from 'react';

interface MeasureProps {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  /** What stands in the field while it is 0. */
  empty?: string;
  onTake: (v: number) => void;
}

/** A number that is taken when it is left, or on Enter. */
export function Measure({ label, value, min, max, step, empty, onTake }: MeasureProps) {
  const [typed, setTyped] = useState<number | string>();
  const take = () => {
    if (typed !== undefined && Number(typed) !== value) {
      onTake(Number(typed) || 0);
    }
    setTyped(undefined);
  };
  return (
    <NumberInput
      size="xs"
      label={label}
      min={min}
      max={max}
      step={step}
      placeholder={empty}
      value={typed ?? (empty && value === 0 ? '' : value)}
      onChange={setTyped}
      onBlur={take}
      onKeyDown={(e) => e.key === 'Enter' && take()}
    />
  );
}
