import { SegmentedControl } from '@mantine/core';
import { useState } from 'react';
import type { RoomProps } from '../room/props';
import classes from './Form.module.css';

/** What leaves the program on paper, at the model's own size, and as a mesh. */
export function SheetsRoom({ data }: RoomProps) {
  const [paper, setPaper] = useState('A4');
  const { plan, revision } = data;
  const at = `/api/builds/${plan.build}/sheets`;
  const sheets = [
    ['views', 'Five views', 'All sides at the model’s own size, with the scheme.'],
    ['track-jig', 'Track jig', 'A card with the curve of the upper run, and a straight gauge.'],
    ['wheel-masks', 'Wheel masks', 'Discs and rings packed on the tapes you own, with compass settings.'],
    ['guide', 'Painting guide', 'The five views once the scheme is on, with colours and recipes.'],
    ['markings', 'Markings', 'Numbers and signs at the model’s size, to hold against it or to cut stencils from.'],
    ['masks', 'Masks', 'Fields of the scheme on each panel, with ticks where panels meet, and the tape plan.'],
    ['crossings', 'Crossings', 'Where freehand edges run over the edges of panels: marks to pencil on.'],
    ['base', 'Base', 'The board with its imprints and drill holes, and a card of the ground under a track.'],
    ['arms', 'Arm template', 'Arms and wheels set for the ground they stand on.'],
  ] as const;
  return (
    <section aria-label="Sheets" className={classes.sheets}>
      <SegmentedControl data={['A4', 'Letter']} value={paper} onChange={setPaper} aria-label="Paper" />
      <p className={classes.mute}>Print at 100 %. Each page has a bar of 50 mm: hold a ruler against it first.</p>
      {sheets
        .filter(([name]) => plan.sheets.includes(name))
        .map(([name, title, what]) => (
          <article key={name} aria-label={title}>
            {/* The revision makes the browser fetch it anew after an edit. */}
            <img src={`${at}/${name}.svg?r=${revision}`} alt={`${title}, as it prints`} />
            <div>
              <h3>{title}</h3>
              <p>{what}</p>
              <a className={classes.link} href={`${at}/${name}.pdf?paper=${paper}`} target="_blank" rel="noreferrer">
                PDF, {paper}
              </a>
              <a className={classes.link} href={`${at}/${name}.svg`} download>
                SVG
              </a>
              {name === 'masks' && (
                <>
                  <a
                    className={classes.link}
                    href={`${at}/masks-inverse.pdf?paper=${paper}`}
                    target="_blank"
                    rel="noreferrer"
                  >
                    What is sprayed cut out
                  </a>
                  <a className={classes.link} href={`${at}/masks-cut.svg`} download>
                    Cut lines only
                  </a>
                </>
              )}
            </div>
          </article>
        ))}
      <article aria-label="Body as a mesh">
        <div />
        <div>
          <h3>Body as a mesh</h3>
          <p>All parts closed, at the model’s size, for a printer or another program.</p>
          <a className={classes.link} href={`${at}/body.stl`} download={`${plan.name}.stl`}>
            STL
          </a>
          <a className={classes.link} href={`${at}/body.glb`} download={`${plan.name}.glb`}>
            glTF
          </a>
        </div>
      </article>
      {!plan.sheets.includes('arms') && (
        <p className={classes.mute}>An arm template comes once the ground under the track is uneven.</p>
      )}
    </section>
  );
}
