import type { BuildState, SizeLine } from '../api/client';
import type { BuildTools } from '../api/useBuild';
import { BodyRoom } from '../form/BodyRoom';
import { GearRoom } from '../form/GearRoom';
import { SheetsRoom } from '../form/SheetsRoom';
import type { FormWork } from '../form/useFormWork';
import { Cables } from '../measure/Cables';
import { KitCheck } from '../measure/KitCheck';
import { OwnParts } from '../measure/OwnParts';
import { Photos } from '../measure/Photos';
import { SizeSheet } from '../measure/SizeSheet';
import { StockRoom } from '../measure/StockRoom';
import type { PhotoWork } from '../measure/usePhotoWork';
import { EveningsRoom } from '../order/EveningsRoom';
import { PartsRoom } from '../order/PartsRoom';
import { StepsRoom } from '../order/StepsRoom';
import { VersionRoom } from '../order/VersionRoom';
import { Findings } from './Findings';
import { LayersTray } from './LayersTray';
import { SchemeTray } from './SchemeTray';
import { StepCard } from './StepCard';
import classes from '../room/room.module.css';

export interface RoomProps {
  tools: BuildTools;
  data: BuildState;
  at: number;
  zone?: string;
  onZone: (zone?: string) => void;
  onMark: (zones: string[]) => void;
}

const measuring = ['Sizes', 'Kit check', 'Stock', 'Cables', 'Photos', 'Own parts'] as const;
const forming = ['Body', 'Gear', 'Sheets'] as const;
const planning = ['Version', 'Parts', 'Steps', 'Scheme', 'Layers', 'Evenings'] as const;
const wide: readonly string[] = ['Version', 'Parts', 'Steps', 'Evenings'];
export type Room = (typeof measuring)[number] | (typeof forming)[number] | (typeof planning)[number];

const roomOf: Record<string, Room> = {
  Build: 'Sizes',
  Paint: 'Scheme',
  Markings: 'Layers',
  Wear: 'Layers',
  Earth: 'Layers',
  Finish: 'Evenings',
};

/** The room that belongs to a stage of the path. */
export const roomFor = (stage?: string): Room => roomOf[stage ?? 'Build'] ?? 'Sizes';

export const isMeasuring = (room: Room) => [...measuring, ...forming, ...wide].includes(room);

const withStep = (room: Room) => !isMeasuring(room) || room === 'Steps' || room === 'Evenings';

/** Rooms about all steps stay open while one walks along the path. */
export const keepsWhenWalking = (room: Room) => wide.includes(room);

interface RoomProps extends RoomProps {
  room: Room;
  onRoom: (room: Room) => void;
  sizing?: string;
  onSizing: (key?: string) => void;
  onPlace: (line: SizeLine) => void;
  picking?: string;
  onPicking: (cable?: string) => void;
  work: PhotoWork;
  form: FormWork;
}

/** The tools of the stage one stands on; the words at its head go to another by hand. */
export function Tray(props: RoomProps) {
  const { room, onRoom } = props;
  const { plan } = props.data;
  const step = plan.steps[props.at];
  const tab = (r: Room) => (
    <button
      key={r}
      type="button"
      role="tab"
      aria-selected={r === room}
      className={classes.room}
      onClick={() => onRoom(r)}
    >
      {r}
    </button>
  );
  const rooms: Record<Room, React.ReactNode> = {
    Sizes: <SizeSheet {...props} />,
    'Kit check': <KitCheck {...props} />,
    Stock: <StockRoom scale={plan.scale} />,
    Cables: <Cables {...props} />,
    Photos: <Photos {...props} />,
    'Own parts': <OwnParts {...props} />,
    Body: <BodyRoom {...props} work={props.form} />,
    Gear: <GearRoom {...props} work={props.form} />,
    Sheets: <SheetsRoom {...props} />,
    Version: <VersionRoom {...props} />,
    Parts: <PartsRoom {...props} />,
    Steps: <StepsRoom {...props} />,
    Scheme: <SchemeTray {...props} />,
    Layers: <LayersTray {...props} />,
    Evenings: <EveningsRoom {...props} />,
  };
  return (
    <aside className={classes.tray} aria-label="The tray">
      {withStep(room) && step && <StepCard step={step} data={props.data} log={props.tools.log} />}
      {!isMeasuring(room) && plan.findings.length > 0 && <Findings {...props} />}
      <div className={classes.rooms} role="tablist" aria-label="What the tray holds">
        <span className={classes.stage}>Measure</span>
        <div className={classes.row2}>{measuring.map(tab)}</div>
        <span className={classes.stage}>Form</span>
        <div className={classes.row2}>{forming.map(tab)}</div>
        <span className={classes.stage}>Plan</span>
        <div className={classes.row2}>{planning.map(tab)}</div>
      </div>
      {/* All stay in place, so that what was typed is not lost by looking elsewhere; what is
          shaped is kept with the plate, its rooms need not wait. */}
      {(Object.keys(rooms) as Room[]).map((r) =>
        ([...forming, ...wide] as readonly string[]).includes(r) && room !== r ? null : (
          <div key={r} hidden={room !== r}>
            {rooms[r]}
          </div>
        ),
      )}
    </aside>
  );
}
