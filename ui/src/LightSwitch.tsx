import { useMantineColorScheme } from '@mantine/core';

/** Mid-light by default, with a dark variant. */
export function LightSwitch() {
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const dark = colorScheme === 'dark';
  return (
    <button type="button" className="word" onClick={() => setColorScheme(dark ? 'light' : 'dark')}>
      {dark ? 'Lighter' : 'Darker'}
    </button>
  );
}
