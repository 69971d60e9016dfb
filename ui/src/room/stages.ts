/** The stages of the work with their rooms: the way around a build. */
export const stages = {
  Measure: ['Sizes', 'Kit check', 'Stock', 'Cables', 'Photos', 'Own parts'],
  Form: ['Body', 'Gear', 'Sheets'],
  Build: ['Version', 'Parts', 'Steps'],
  Paint: ['Scheme', 'Layers', 'Markings'],
  Wear: ['Layers', 'Story', 'Core sample', 'Worth', 'Steps'],
  Earth: ['Layers', 'Story', 'Core sample', 'Worth', 'Gear'],
  Finish: ['Parts', 'Steps', 'Base', 'Sheets'],
  Evenings: ['Evenings', 'What if', 'Hours', 'Schools'],
} as const;

export type Stage = keyof typeof stages;
export type Room = (typeof stages)[Stage][number];

export const stageNames = Object.keys(stages) as Stage[];

/** The way to a room is its name in small letters. */
const slug = (name: string) => name.toLowerCase().replaceAll(' ', '-');

export const wayTo = (build: string, stage: Stage, room: Room) => `/builds/${build}/${slug(stage)}/${slug(room)}`;

/** Where an address leads; nowhere when it names nothing that is there. */
export function readWay(stage?: string, room?: string): { stage: Stage; room: Room } | undefined {
  const s = stageNames.find((x) => slug(x) === stage);
  const r = s && (stages[s] as readonly Room[]).find((x) => slug(x) === room);
  return s && r ? { stage: s, room: r } : undefined;
}

/** The stage of the way around that a stage of the path belongs to. */
export function stageOf(pathStage?: string): Stage {
  if (pathStage === 'Markings') {
    return 'Paint';
  }
  return stageNames.find((s) => s === pathStage) ?? 'Build';
}

/** The room that a stage opens with. */
export const firstRoom = (stage: Stage): Room => stages[stage][0];

/** Rooms that ask for more width than the others. */
const wide: readonly Room[] = [
  'Sizes',
  'Kit check',
  'Stock',
  'Cables',
  'Photos',
  'Own parts',
  'Body',
  'Gear',
  'Sheets',
  'Version',
  'Parts',
  'Steps',
  'Base',
  'Evenings',
  'What if',
  'Hours',
  'Schools',
];

export const isWide = (room: Room) => wide.includes(room);

/** Rooms that are about no step: the one that is stood on is not told in them. */
export const isApart = (room: Room) => ([...stages.Measure, ...stages.Form] as readonly Room[]).includes(room);

/** Rooms about all steps stay open while one walks along the path. */
export const keeps: readonly Room[] = [
  'Version',
  'Parts',
  'Steps',
  'Evenings',
  'What if',
  'Hours',
  'Schools',
  'Layers',
  'Story',
  'Core sample',
  'Worth',
  'Markings',
];
