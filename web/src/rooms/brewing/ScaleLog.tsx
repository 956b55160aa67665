import { UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../../api/client';
import { Refused } from '../../api/client';
import { ScaleCurve } from '../../charts/staircase/ScaleCurve';
import { ChooseFile } from '../../ui/ChooseFile';
import { clock, fixed } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { curveQuery, type RunMeasured } from '../measuring/queries';
import classes from './Brew.module.css';
import { takeScaleLog } from './queries';
import { textOf } from './textOf';

type Taken = Schemas['ScaleLogAnswer'];

/** A real scale's file beside the brew: its curve over the plan, its pours found by themselves. */
export function ScaleLog({ run, rev, onRev }: { run: RunMeasured; rev: number; onRev: (rev: number) => void }) {
  const [taken, setTaken] = useState<Taken | null>(null);
  const [trouble, setTrouble] = useState('');
  const { data: curve } = useQuery({ ...curveQuery(run.id), enabled: run.has_curve || taken !== null });
  const take = useSend(async (file: File) => takeScaleLog(run.id, rev, await textOf(file)), {
    onDone: (answer) => {
      setTaken(answer);
      setTrouble('');
      onRev(answer.rev);
    },
    onTrouble: (error) => {
      if (!(error instanceof Refused) || error.status !== 422) return false;
      const first = error.problem?.errors?.[0];
      setTrouble(first ? `${first.reason} ${first.remedy}` : error.message);
      return true;
    },
  });
  return (
    <section className={classes.scaleLog} aria-label="The scale's curve">
      {curve && curve.points.length > 1 && <ScaleCurve points={curve.points} plan={curve.plan} height={150} />}
      {taken && (
        <ul className={classes.pours}>
          {taken.pours.map((p) => (
            <li key={p.start_s} className="num">
              {clock(p.start_s)}–{clock(p.end_s)} to {fixed(p.to_g, 0)} g, {fixed(p.rate_g_s, 1)} g/s
              {p.planned_to_g !== null && <span className="quiet"> · planned {fixed(p.planned_to_g, 0)} g</span>}
            </li>
          ))}
        </ul>
      )}
      {taken && (
        <p className="small">
          {taken.off_plan.length ? `Off plan: ${taken.off_plan.join(', ')}.` : 'On plan.'} {taken.notes.join(' ')}{' '}
          {taken.gaps.length > 0 && `No readings ${taken.gaps.map(([a, b]) => `${clock(a)}–${clock(b)}`).join(', ')}.`}
        </p>
      )}
      {trouble && (
        <p role="alert" className={classes.trouble}>
          {trouble}
        </p>
      )}
      <ChooseFile accept=".csv,.txt,.tsv,text/csv,text/plain" onFile={(file) => take.mutate(file)}>
        {(props) => (
          <UnstyledButton {...props} className={classes.fileLink} disabled={take.isPending}>
            {take.isPending ? 'Reading the file…' : 'Add a scale’s file: time and mass, CSV'}
          </UnstyledButton>
        )}
      </ChooseFile>
    </section>
  );
}
