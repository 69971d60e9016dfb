import { useLocalStorage } from '@mantine/hooks';
import classes from './BuildScreen.module.css';

/** The plate and the tray, with a seam between them that is dragged; its place is remembered. */
export function Middle({ wide, children }: { wide: boolean; children: React.ReactNode }) {
  const [width, setWidth] = useLocalStorage<number>({
    key: wide ? 'cinder-tray-wide' : 'cinder-tray',
    defaultValue: wide ? 620 : 420,
  });
  const set = (to: number) => setWidth(Math.round(Math.min(Math.max(to, 320), window.innerWidth - 320)));
  return (
    <main className={classes.middle} style={{ gridTemplateColumns: `minmax(0, 1fr) 7px ${width}px` }}>
      {children}
      <hr
        className={classes.seam}
        aria-orientation="vertical"
        aria-label="Width of the tray"
        aria-valuenow={width}
        tabIndex={0}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && set(window.innerWidth - e.clientX - 3)}
        onKeyDown={(e) => {
          const by = { ArrowLeft: 20, ArrowRight: -20 }[e.key];
          if (by) {
            e.stopPropagation();
            set(width + by);
          }
        }}
      />
    </main>
  );
}
