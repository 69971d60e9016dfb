import { useState } from 'react';
import { Link } from 'react-router';
import { BaseRoom } from '../finish/BaseRoom';
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
import { EveningsRoom, HoursRoom, WhatIfRoom } from '../order/EveningsRoom';
import { PartsRoom } from '../order/PartsRoom';
import { SchoolsRoom } from '../order/SchoolsRoom';
import { StepsRoom } from '../order/StepsRoom';
import { VersionRoom } from '../order/VersionRoom';
import { CoreRoom } from '../paint/CoreRoom';
import { Findings } from '../paint/Findings';
import { LayersTray } from '../paint/LayersTray';
import { MarkingsRoom } from '../paint/MarkingsRoom';
import { SchemeTray } from '../paint/SchemeTray';
import { StoryRoom } from '../paint/StoryRoom';
import type { Spot } from '../paint/useFate';
import type { PutWork } from '../paint/useMarkings';
import type { PinWork } from '../paint/useScheme';
import { WorthRoom } from '../paint/WorthRoom';
import type { RoomProps } from '../room/props';
import { isApart, type Room, type Stage, stages, wayTo } from '../room/stages';
import { StepLine } from './StepLine';
import classes from './Tray.module.css';

interface TrayProps extends RoomProps {
  stage: Stage;
  room: Room;
  work: PhotoWork;
  form: FormWork;
  pins: PinWork;
  puts: PutWork;
  /** What the plate shows, and where on it a core is taken. */
  look: string;
  spot?: Spot;
}

/** What is shaped or fetched anew each time need not wait while one looks elsewhere. */
const fresh: readonly Room[] = ['Core sample', 'Worth', 'Base', ...stages.Form, ...stages.Build, ...stages.Evenings];

/** The rooms of a stage in one row, the step one stands on in one line, and a room's tool. */
export function Tray(props: TrayProps) {
  const { room, stage, data } = props;
  const { plan } = data;
  const step = plan.steps[props.at];
  const [entered, setEntered] = useState<readonly Room[]>([room]);
  if (!entered.includes(room)) {
    setEntered([...entered, room]);
  }
  const rooms: Record<Room, React.ReactNode> = {
    Sizes: <SizeSheet {...props} />,
    'Kit check': <KitCheck {...props} />,
    Stock: <StockRoom scale={plan.scale} />,
    Cables: <Cables {...props} />,
    Photos: <Photos {...props} />,
    'Own parts': <OwnParts {...props} />,
    Body: <BodyRoom key={props.form.left} {...props} work={props.form} />,
    Gear: <GearRoom key={props.form.left} {...props} work={props.form} />,
    Sheets: <SheetsRoom {...props} />,
    Version: <VersionRoom {...props} />,
    Parts: <PartsRoom {...props} />,
    Steps: <StepsRoom {...props} />,
    Scheme: <SchemeTray {...props} pins={props.pins} puts={props.puts} />,
    Layers: <LayersTray {...props} />,
    Evenings: <EveningsRoom {...props} />,
    'What if': <WhatIfRoom {...props} />,
    Hours: <HoursRoom {...props} />,
    Schools: <SchoolsRoom {...props} />,
    Story: <StoryRoom {...props} />,
    'Core sample': <CoreRoom {...props} />,
    Worth: <WorthRoom {...props} />,
    Base: <BaseRoom {...props} />,
    Markings: <MarkingsRoom {...props} puts={props.puts} />,
  };
  return (
    <aside className={classes.tray} aria-label="The tray">
      <div className={classes.rooms} role="tablist" aria-label={`Rooms of ${stage}`}>
        {stages[stage].map((r) => (
          <Link
            key={r}
            role="tab"
            aria-selected={r === room}
            className={classes.room}
            to={wayTo(data.build.id, stage, r)}
          >
            {r}
          </Link>
        ))}
      </div>
      <div className={classes.below}>
        {!isApart(room) && step && <StepLine key={step.id} step={step} data={data} log={props.tools.log} />}
        {!isApart(room) && plan.findings.length > 0 && <Found {...props} />}
        {/* Those one was in stay in place, so that what was typed is not lost by looking elsewhere. */}
        {entered.map((r) =>
          fresh.includes(r) && room !== r ? null : (
            <div key={r} hidden={room !== r} className={classes.tool}>
              {rooms[r]}
            </div>
          ),
        )}
      </div>
    </aside>
  );
}

/** What would go wrong, in one line that opens. */
function Found(props: TrayProps) {
  const [open, setOpen] = useState(false);
  const { findings } = props.data.plan;
  const stops = findings.filter((f) => f.severity === 'stop').length;
  return (
    <section aria-label="What would go wrong">
      <button type="button" className={classes.found} aria-expanded={open} onClick={() => setOpen(!open)}>
        <strong>
          {findings.length} {findings.length === 1 ? 'finding' : 'findings'}
          {stops > 0 ? `, ${stops} that would damage it` : ''}
        </strong>{' '}
        {open ? 'close' : findings[0]?.title}
      </button>
      {open && <Findings {...props} />}
    </section>
  );
}
