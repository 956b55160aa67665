import { Button } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Loaded } from '../../ui/Loading';
import { clock, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { tellTrouble, useTellDeleted } from '../../ui/tell';
import classes from './Along.module.css';
import { FinishBrew } from './FinishBrew';
import { Lanes } from './Lanes';
import { LiveStairs } from './LiveStairs';
import { calledOf, homeOf, marksSaid } from './marks';
import { giveUp, type LiveBrew, type LiveStep, liveQuery, type MarkBody, mark, startBrew } from './queries';
import { SteepStage } from './SteepStage';
import { beep, useAwake } from './useAwake';
import { useElapsed } from './useElapsed';
import { useScale } from './useScale';

/** A brew while it is made: huge figures, one key for "done", nothing to type until the end. */
export function AlongPage() {
  const { id = '' } = useParams();
  const live = useQuery(liveQuery(id));
  return <Loaded query={live}>{({ brew, seen }) => <Along brew={brew} seen={seen} />}</Loaded>;
}

function Along({ brew, seen }: { brew: LiveBrew; seen: number }) {
  const client = useQueryClient();
  const keep = (next: LiveBrew) =>
    client.setQueryData(liveQuery(brew.id).queryKey, { brew: next, seen: performance.now() });
  // Nothing else is fetched anew after a mark: the key must be ready for the next press at once.
  const trouble = (error: unknown) => {
    tellTrouble(error);
    void client.invalidateQueries(liveQuery(brew.id));
  };
  const begin = useMutation({
    mutationFn: () => startBrew(brew),
    onSuccess: (next) => {
      keep(next);
      void client.invalidateQueries({ predicate: (q) => q.queryKey.includes('live-brews') });
    },
    onError: trouble,
  });
  const put = useMutation({ mutationFn: (body: MarkBody) => mark(brew, body), onSuccess: keep, onError: trouble });
  const navigate = useNavigate();
  const tellDeleted = useTellDeleted();
  const drop = useMutation({
    mutationFn: () => giveUp(brew.id),
    onSuccess: (done) => {
      tellDeleted('The brew', done.change_id);
      void client.invalidateQueries();
      navigate(homeOf(brew));
    },
    onError: trouble,
  });
  const elapsed = useElapsed(brew, seen);
  const { reading, lost } = useScale(brew);
  const running = brew.started_at !== null && !brew.finished;
  useAwake(running);

  const doneSteps = new Set(brew.marks.filter((m) => m.kind === 'step_done').map((m) => m.index));
  const current = brew.steps.find((s) => !doneSteps.has(s.index));
  const next = brew.steps.find((s) => !doneSteps.has(s.index) && s !== current);
  const stopped = brew.marks.some((m) => m.kind === 'drips_stopped');
  const scale_g = reading?.scale_g ?? null;
  const busy = begin.isPending || put.isPending;
  const advance = () => {
    if (busy || brew.finished) return;
    if (!brew.started_at) begin.mutate();
    else if (current)
      put.mutate({
        kind: 'step_done',
        index: current.index,
        at_s: round(elapsed),
        ...(scale_g !== null && { reading_g: round(scale_g) }),
      });
    else if (!stopped) put.mutate({ kind: 'drips_stopped', at_s: round(elapsed) });
  };
  useSpace(advance);
  const soon = next !== undefined && elapsed >= next.start_s - brew.ahead_s && elapsed < next.start_s;
  useBeep(running && soon, next?.index);

  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <Penny stamp={brew.letter} size={54} />
        <div>
          <h1>{brew.trial_id === null ? brew.name : `Brew ${calledOf(brew)} · ${brew.name}`}</h1>
          <p className="quiet">
            {fixed(brew.dose_g, 1)} g · {fixed(brew.water_g, 0)} g water
            {brew.temperature_c !== null && ` · ${fixed(brew.temperature_c, 0)} °C`}
            {brew.instrument === 'simulated' && (
              <b className={classes.simulated}>
                simulated instruments{brew.speed > 1 && `, ${brew.speed}× speed`}
                {brew.mistake && ', one mistake on purpose'}
              </b>
            )}
          </p>
        </div>
        <Link className={classes.leave} to={homeOf(brew)}>
          Leave (the timer keeps running)
        </Link>
        {!brew.finished && (
          <Confirm
            question="Give this brew up?"
            detail="Nothing of it is logged. It can be undone."
            verb="Give it up"
            onYes={() => drop.mutate()}
          >
            {(ask) => (
              <Button size="compact-sm" variant="subtle" color="red" onClick={ask}>
                Discard this brew
              </Button>
            )}
          </Confirm>
        )}
      </header>
      <Lanes own={brew} />
      {stopped || brew.finished ? (
        <FinishBrew brew={brew} />
      ) : (
        <div className={classes.columns}>
          <section className={classes.work} aria-label="Staircase">
            {running && current && current.to_g === null && OWN_STAGE.has(current.kind) ? (
              <SteepStage brew={brew} step={current} elapsed_s={elapsed} press_kg={reading?.press_kg ?? null} />
            ) : (
              <LiveStairs brew={brew} elapsed_s={elapsed} scale_g={scale_g} plan_g={reading?.plan_g ?? 0} />
            )}
            <div className={classes.chips}>
              {!brew.steps.some((x) => x.kind === 'press' || x.kind === 'break_crust') && (
                <Button
                  variant="default"
                  size="md"
                  disabled={!running || busy}
                  onClick={() => put.mutate({ kind: 'first_drip', at_s: round(elapsed) })}
                >
                  First drip
                </Button>
              )}
              <Button
                variant="default"
                size="md"
                disabled={!running || busy}
                onClick={() => put.mutate({ kind: 'spill', at_s: round(elapsed) })}
              >
                Spill
              </Button>
              {current?.kind === 'hold_level' && (
                <Button
                  variant="default"
                  size="md"
                  disabled={!running || busy}
                  onClick={() => put.mutate({ kind: 'level_held', at_s: round(elapsed) })}
                >
                  Level held
                </Button>
              )}
              {current?.cue && (
                <Button
                  variant="default"
                  size="md"
                  disabled={!running || busy}
                  onClick={() => put.mutate({ kind: 'cue', at_s: round(elapsed), text: current.cue })}
                >
                  Seen: {current.cue}
                </Button>
              )}
              <span className="quiet">{marksSaid(brew)}</span>
            </div>
          </section>
          <section className={classes.now} aria-live="off">
            <div className={classes.elapsed}>
              <span className="quiet">elapsed</span>
              <output aria-label="Elapsed">{clock(elapsed)}</output>
              <span className={classes.scale}>
                {lost ? 'scale lost: the brew goes on' : scale_g !== null ? `${fixed(scale_g, 1)} g` : ''}
              </span>
              {(reading?.slurry_c ?? null) !== null && (
                <span className={classes.heat}>
                  slurry {fixed(reading!.slurry_c, 0)} °C · kettle {fixed(reading!.kettle_c, 0)} °C
                </span>
              )}
            </div>
            <Target brew={brew} step={current} scale_g={scale_g} elapsed_s={elapsed} />
            <div className={classes.then} data-soon={soon || undefined}>
              <span className="quiet">{brew.started_at ? 'then' : 'before'}</span>
              <p>
                {brew.started_at
                  ? next
                    ? nextSaid(next)
                    : 'watch for the last drip'
                  : brew.before.join(', ') || 'the kettle, the scale, the server'}
              </p>
            </div>
            <button type="button" className={classes.go} disabled={busy} onClick={advance}>
              {!brew.started_at ? 'Start pour' : current ? doneWord(current) : 'Drips stopped'} <kbd>space</kbd>
            </button>
            {!brew.started_at && (
              <Button variant="default" size="md" disabled={busy} onClick={() => put.mutate({ kind: 'ground' })}>
                {brew.marks.some((m) => m.kind === 'ground') ? 'Ground: the minutes are counted' : 'Coffee ground now'}
              </Button>
            )}
            {!brew.started_at && brew.no_steps && <p className={classes.noSteps}>{brew.no_steps}</p>}
            {!brew.started_at &&
              (brew.cautions.length ? brew.cautions : [PLAIN_CAUTION]).slice(0, 2).map((c) => (
                <p key={c.text} className="small quiet">
                  {c.text}
                </p>
              ))}
          </section>
        </div>
      )}
    </main>
  );
}

function Target({
  brew,
  step,
  scale_g,
  elapsed_s,
}: {
  brew: LiveBrew;
  step: LiveStep | undefined;
  scale_g: number | null;
  elapsed_s: number;
}) {
  if (!step) {
    return (
      <div className={classes.target}>
        <span>drains until about</span>
        <output aria-label="Target">{clock(brew.total_s)}</output>
      </div>
    );
  }
  const waits = elapsed_s < step.start_s - 0.5 && brew.started_at !== null;
  const rest = step.to_g === null ? null : scale_g === null ? step.to_g : Math.max(0, step.to_g - scale_g);
  return (
    <div className={classes.target}>
      <span>
        {waits
          ? `in ${Math.ceil(step.start_s - elapsed_s)} s: ${step.text}`
          : step.to_g === null
            ? step.text
            : scale_g === null
              ? 'pour to'
              : 'still to pour'}
      </span>
      <output aria-label="Target">
        {rest === null ? clock(Math.max(0, step.end_s - elapsed_s)) : fixed(rest, 0)}
        {rest !== null && <small> g</small>}
      </output>
      {step.to_g !== null && (
        <p>
          to <b className="num">{fixed(step.to_g, 0)}</b>
          {!brew.no_steps && (
            <>
              {' '}
              by <b className="num">{clock(step.end_s)}</b>
            </>
          )}
        </p>
      )}
    </div>
  );
}

/** Steps in which nothing is poured and the vessel itself is what one watches. */
const OWN_STAGE = new Set(['wait', 'lid', 'break_crust', 'skim', 'invert', 'press', 'stir', 'settle', 'transfer']);
const PLAIN_CAUTION = { text: 'Boiling water and steam scald, and a dripper on a server topples: steady it.' };

const nextSaid = (next: LiveStep) =>
  /\bfrom\b/.test(next.text) ? next.text : `${next.text} at ${clock(next.start_s)}`;
const round = (value: number) => Math.round(value * 10) / 10;
const doneWord = (step: LiveStep) => (step.to_g === null ? 'Done' : 'Poured');

/** Space is "done", wherever the focus is. */
function useSpace(run: () => void) {
  const latest = useRef(run);
  latest.current = run;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT|BUTTON|A)$/.test(event.target.tagName);
      if (event.key !== ' ' || event.repeat || typing) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, []);
}

function useBeep(on: boolean, step: number | undefined) {
  const rung = useRef<number | undefined>(undefined);
  useEffect(() => {
    if (!on || rung.current === step) return;
    rung.current = step;
    beep();
  }, [on, step]);
}
