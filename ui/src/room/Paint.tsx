import { ColorInput } from '@mantine/core';
import { useRef, useState } from 'react';

interface PaintProps {
  label: string;
  /** Its name for who does not see what it belongs to. */
  name?: string;
  hex: string;
  /** What stands in the field where there is none. */
  empty?: string;
  onTake: (hex: string) => void;
}

/** A colour that is taken when it is chosen, when the field is left, or on Enter. */
export function Paint({ label, name, hex, empty, onTake }: PaintProps) {
  const [typed, setTyped] = useState<string>();
  // While one types in it, what stands there is not whole yet: three figures are a colour too.
  const field = useRef<HTMLInputElement>(null);
  const take = (next: string | undefined) => {
    setTyped(undefined);
    if (next !== undefined && next !== hex) {
      onTake(next);
    }
  };
  return (
    <ColorInput
      ref={field}
      size="xs"
      label={label}
      aria-label={name}
      format="hex"
      placeholder={empty}
      withEyeDropper={false}
      value={typed ?? hex}
      onChange={setTyped}
      onChangeEnd={(next) => document.activeElement !== field.current && take(next)}
      onBlur={() => take(typed)}
      onKeyDown={(e) => e.key === 'Enter' && take(typed)}
    />
  );
}
