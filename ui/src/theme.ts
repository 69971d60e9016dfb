import { createTheme, type MantineColorsTuple } from '@mantine/core';

/** True neutrals: paint is judged against them, so no step carries a tint. */
const neutral: MantineColorsTuple = [
  '#f2f2f2',
  '#e2e2e2',
  '#d2d2d2',
  '#bdbdbd',
  '#9b9b9b',
  '#7a7a7a',
  '#5c5c5c',
  '#444444',
  '#303030',
  '#1c1c1c',
];

/** The one warm accent, only for what is now. */
const ember: MantineColorsTuple = [
  '#fbe9e1',
  '#f3cdbd',
  '#e8a98f',
  '#dd8460',
  '#d2683c',
  '#c5501f',
  '#b5400f',
  '#98340b',
  '#7b2a09',
  '#5f2007',
];

const still = { duration: 0 };

export const theme = createTheme({
  fontFamily: "'Archivo Variable', system-ui, sans-serif",
  headings: { fontFamily: "'Archivo Variable', system-ui, sans-serif", fontWeight: '650' },
  colors: { neutral, gray: neutral, dark: neutral, ember },
  primaryColor: 'neutral',
  primaryShade: { light: 9, dark: 1 },
  autoContrast: true,
  defaultRadius: 1,
  cursorType: 'pointer',
  components: {
    Button: { defaultProps: { size: 'sm' } },
    TextInput: { defaultProps: { size: 'sm' } },
    // Motion only where time passes: what opens, opens.
    Popover: { defaultProps: { shadow: 'none', radius: 1, transitionProps: still } },
    Menu: { defaultProps: { shadow: 'none', radius: 1, transitionProps: still } },
    Modal: { defaultProps: { shadow: 'none', radius: 1, centered: true, transitionProps: still } },
  },
});
