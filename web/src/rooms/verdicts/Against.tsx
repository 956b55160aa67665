import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ChartCard } from '../../charts/ChartCard';
import { LikingCurve } from '../../charts/verdict/LikingCurve';
import { PanelSurface } from '../../charts/verdict/PanelSurface';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { Pick } from '../../ui/Pick';
import { axisOf, measured } from '../../ui/units';
import { type CurveShown, type Pairing, pairingQuery, type VerdictAnswer } from './queries';
import classes from './Verdict.module.css';

/** Pairing what was measured with what was tasted: the sweet spot, or that there is none inside the tested range. */
export function Against({ trialId, answer }: { trialId: string; answer: VerdictAnswer }) {
  const [attribute, setAttribute] = useState('liking');
  const pairing = useQuery(pairingQuery(trialId, attribute));
  return (
    <>
      <div className={classes.pick}>
        <Pick
          aria-label="What is set against the measurements"
          value={attribute}
          onPick={(value) => setAttribute(value)}
          data={['liking', ...answer.attributes]}
        />
        <p className="quiet small">
          Pennies are brews; the line is the panel’s curve with its 95 % band, tasters’ own levels taken out.
        </p>
      </div>
      <Loaded query={pairing}>
        {(p) => (
          <div className={classes.curves}>
            {p.curves.map((c) => (
              <CurveCard key={c.measure + c.group} curve={c} pairing={p} />
            ))}
            <SurfaceCard pairing={p} />
          </div>
        )}
      </Loaded>
    </>
  );
}

/** untold: what it says stands above it already. */
export function CurveCard({ curve, pairing, untold }: { curve: CurveShown; pairing: Pairing; untold?: boolean }) {
  const { places } = curve;
  return (
    <ChartCard
      label={`${pairing.label} against ${curve.label.toLowerCase()}`}
      name={`${pairing.attribute}-against-${curve.measure}`}
      notes={[curve.group, curve.text]}
      table={{
        rows: curve.points,
        columns: [
          { head: 'brew', of: (p) => p.label },
          { head: axisOf(curve), of: (p) => measured(curve.measure, p.x, places) },
          { head: pairing.label, of: (p) => fixed(p.mean, 2) },
          { head: 'scores', of: (p) => p.n },
        ],
      }}
    >
      {curve.group && <p className="quiet small">{curve.group}</p>}
      {!untold && <p className={classes.said}>{curve.text}</p>}
      <LikingCurve curve={curve} attribute={pairing.label} />
    </ChartCard>
  );
}

function SurfaceCard({ pairing }: { pairing: Pairing }) {
  const ey = pairing.curves.find((c) => c.measure === 'ey_pct')!.points;
  const tds = new Map(pairing.curves.find((c) => c.measure === 'tds_pct')!.points.map((p) => [p.label, p.x]));
  const cups = ey.flatMap((p) =>
    tds.has(p.label) ? [{ letter: p.letter, label: p.label, ey: p.x, tds: tds.get(p.label)! }] : [],
  );
  return (
    <ChartCard
      label={`${pairing.label} over strength and yield`}
      name={`${pairing.attribute}-surface`}
      notes={[pairing.surface_text]}
      table={{
        rows: cups,
        columns: [
          { head: 'brew', of: (c) => c.label },
          { head: 'yield, %', of: (c) => fixed(c.ey, 1) },
          { head: 'strength, % TDS', of: (c) => fixed(c.tds) },
        ],
      }}
    >
      <p className={classes.said}>{pairing.surface_text}</p>
      {pairing.surface && <PanelSurface surface={pairing.surface} cups={cups} />}
    </ChartCard>
  );
}
