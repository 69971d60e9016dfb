import type { BuildState, SizeLine } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import type { MarkWork } from '../paint/useMarking';

/** What every room of the tray is given. */
export interface RoomProps {
  tools: BuildTools;
  data: BuildState;
  /** The place on the path of the step one stands on. */
  at: number;
  zone?: string;
  onZone: (zone?: string) => void;
  onMark: (zones: string[]) => void;
  /** A layer is worked on: the plate shows it once it is on. */
  onLayer: (layer?: string) => void;
  /** Marks of a layer, set on the plate. */
  marks: MarkWork;
  sizing?: string;
  onSizing: (key?: string) => void;
  onPlace: (line: SizeLine) => void;
  picking?: string;
  onPicking: (cable?: string) => void;
}
