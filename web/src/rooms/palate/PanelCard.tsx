import { PALATE_AXES } from '../../api/vocabulary';
import { fixed } from '../../ui/numbers';
import classes from './Palate.module.css';
import { PanelStrip } from './PanelStrip';
import type { PalateRoom } from './queries';

export const axisOf = (code: string) => PALATE_AXES.find((a) => a.code === code)!;

type PanelCardProps = { panel: PalateRoom['panels'][number]; tasters: PalateRoom['tasters'] };

/** What the panel tells apart along one axis, by all its series; nobody is named. */
export function PanelCard({ panel, tasters }: PanelCardProps) {
  const { word } = axisOf(panel.axis);
  return (
    <section className="card" aria-label={`Panel, ${word.toLowerCase()}`}>
      <h2>{word}: the panel</h2>
      <p className={classes.told}>{panel.text}</p>
      {panel.tasters > 1 && (
        <p className="quiet">Half of them lie within a factor of {fixed(panel.spread, 1)} of that.</p>
      )}
      <PanelStrip panel={panel} tasters={tasters} />
      {panel.stand_ins.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </section>
  );
}
