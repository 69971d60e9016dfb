import { Button, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { type Edit, Refusal, words } from '../api/client';
import type { BuildTools } from '../api/useBuild';

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
