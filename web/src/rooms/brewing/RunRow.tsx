import { Button } from '@mantine/core';
import type { ReactNode } from 'react';
import { PourSpark } from '../../charts/staircase/PourSpark';
import { clock, dayAndTime, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Term } from '../../ui/Term';
import { ratio } from '../../ui/units';
import { LikeBrew } from '../liking/LikeBrew';
import type { RunMeasured } from '../measuring/queries';
import { Photos } from '../photos/Photos';
import type { Photo } from '../photos/queries';
import classes from './Brew.module.css';
import { seenSaid } from './seen';

type RunRowProps = { run: RunMeasured; photos: Photo[]; onEdit: () => void };

/** One brew as a line: its coin, how the water went in, what it came to; what is doubtful under it. */
export function RunRow({ run, photos, onEdit }: RunRowProps) {
  return (
    <article className={classes.run} aria-label={`Brew ${run.label}`}>
      <Penny stamp={run.letter} size={34} />
      <div className={classes.called}>
        <b>{run.label}</b>
        <span className="quiet small">{dayAndTime(run.brewed_at)}</span>
      </div>
      <PourSpark pours={run.pours} water_g={run.brew_water_g} total_s={run.total_time_s} />
      <dl className={classes.numbers}>
        <Fact
          value={run.tds ? `${fixed(run.tds.value)} ± ${fixed(run.tds.half_width)} %` : '–'}
          name={<Term of="tds">TDS</Term>}
        />
        <Fact
          value={
            run.extraction_yield
              ? `${fixed(run.extraction_yield.value, 1)} ± ${fixed(run.extraction_yield.half_width, 1)} %`
              : '–'
          }
          name={<Term of="ey">yield</Term>}
        />
        <Fact value={`${fixed(run.beverage_g, 1)} g`} name="beverage" />
        {run.total_time_s !== null && (
          <Fact
            value={
              run.drawdown_s === null
                ? clock(run.total_time_s)
                : `${clock(run.total_time_s)} · ${clock(run.drawdown_s)}`
            }
            name={run.drawdown_s === null ? 'time' : 'time · drawdown'}
          />
        )}
      </dl>
      <Button variant="default" size="compact-sm" onClick={onEdit}>
        Correct
      </Button>
      <div className={classes.under}>
        <p className="quiet small">
          {fixed(run.dose_g, 1)} g · {fixed(run.brew_water_g, 1)} g in
          {run.bypass_g > 0 && ` + ${fixed(run.bypass_g, 1)} g bypass`} · {ratio(run.brew_ratio)}
          {run.retained_water_ratio !== null && ` · retained ${fixed(run.retained_water_ratio)} g/g`}
          {run.note && ` · ${run.note}`}
        </p>
        {seenSaid(run.observed) && <p className="quiet small">{seenSaid(run.observed)}</p>}
        {run.off_plan.length > 0 && <p className={classes.doubtful}>Off plan: {run.off_plan.join(', ')}.</p>}
        {run.warnings.map((w) => (
          <p key={w.code} className={classes.doubtful}>
            {w.text}
          </p>
        ))}
        <div className={classes.stored}>
          <LikeBrew runId={run.id} called={`brew ${run.label}`} />
          <Photos runId={run.id} label={run.label} photos={photos.filter((p) => p.run_id === run.id)} />
        </div>
      </div>
    </article>
  );
}

const Fact = ({ value, name }: { value: string; name: ReactNode }) => (
  <div>
    <dt>{name}</dt>
    <dd className="num">{value}</dd>
  </div>
);
