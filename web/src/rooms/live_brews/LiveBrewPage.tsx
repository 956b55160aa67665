import { Button, Menu } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { clock, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { call } from '../../ui/sound';
import { useReadAloud } from '../../ui/speech';
import { tellTrouble, useTellDeleted } from '../../ui/tell';
import { heat } from '../../ui/units';
import classes from './Along.module.css';
import { Discard } from './Discard';
import { FinishBrew } from './FinishBrew';
import { Lanes } from './Lanes';
import { LiveStage } from './LiveStage';
import { calledOf, homeOf, marksSaid } from './marks';
import { giveUp, type LiveBrew, type LiveStep, liveQuery, type MarkBody, mark, startBrew, takeBack } from './queries';
import { AloudSwitch, SoundSwitch } from './SoundSwitch';
import { SteepStage } from './SteepStage';
import { aloudOf, keyOf, nextSaid, type Standing, stageOf } from './stage';
import { useAwake } from './useAwake';
import { useElapsed } from './useElapsed';
import { useScale } from './useScale';
import { useWire } from './useWire';
import { WireBar } from './WireBar';

/** A brew while it is made: the scale leads, one key where no scale speaks, nothing to type until the end. */
export function LiveBrewPage() {
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
  const undo = useMutation({ mutationFn: () => takeBack(brew), onSuccess: keep, onError: trouble });
  const navigate = useNavigate();
  const tellDeleted = useTellDeleted();
  const drop = useMutation({
    mutationFn: () => giveUp(brew.id),
    onSuccess: (done) => {
      tellDeleted('The brew', done.change_id);
      // What is gone is not asked for again.
      void client.invalidateQueries({ predicate: (q) => !q.queryKey.includes(brew.id) });
      navigate(homeOf(brew));
    },
    onError: trouble,
  });
  const elapsed = useElapsed(brew, seen);
  const gone = drop.isPending || drop.isSuccess; // nothing is asked of a brew that was given up
  const streamed = useScale(brew, gone);
  const wire = useWire(brew, gone);
  const reading = wire.reading ?? streamed.reading;
  const standing = useStanding(brew, reading, elapsed);
  const { now } = standing;
  const running = brew.started_at !== null && !brew.finished;
  useAwake(running);
  const [weighs, setWeighs] = useState(false);

  const current = brew.steps.find((s) => s.index === now.current);
  useReadAloud(running ? aloudOf(stageOf(brew, standing, elapsed)) : '');
  // The vessel's own stage tells its caution itself.
  const caution = current && !OWN_STAGE.has(current.kind) && brew.cautions.find((c) => c.steps.includes(current.index));
  const key = keyOf(brew, now);
  const busy = begin.isPending || put.isPending || undo.isPending;
  const at_s = round(elapsed);
  const advance = () => {
    if (busy || brew.finished) return;
    if (key.does === 'start') begin.mutate();
    else if (key.does === 'end') put.mutate({ kind: 'ended', at_s });
    else if (key.does === 'step' && current) {
      const scale_g = reading?.scale_g ?? null;
      put.mutate({
        kind: 'step_done',
        index: current.index,
        at_s,
        ...(scale_g !== null && current.to_g !== null && { reading_g: now.poured_g ?? round(Math.max(0, scale_g)) }),
      });
    }
  };
  const back = () => {
    if (!busy && running && brew.marks.length) undo.mutate();
  };
  useKey(' ', advance);
  useKey('Backspace', back);
  useCalls(brew, standing, elapsed, running);
  const touch = (body: MarkBody) => put.mutate({ ...body, at_s });
  // The form begins with what the bench says of the whole brew: it waits for that answer.
  const over = brew.finished || (brew.now.ended_s !== null && (now.phase === 'over' || weighs));

  return (
    <main className={classes.page}>
      <Head brew={brew} />
      <Lanes own={brew} />
      {over ? (
        <FinishBrew key={brew.rev} brew={brew} onDrop={() => drop.mutate()} />
      ) : (
        <>
          {current && running && OWN_STAGE.has(current.kind) ? (
            <SteepStage brew={brew} step={current} elapsed_s={elapsed} press_kg={reading?.press_kg ?? null} />
          ) : (
            <LiveStage brew={brew} standing={standing} elapsed_s={elapsed} />
          )}
          {wire.wired && <WireBar wire={wire} />}
          {!brew.started_at && (
            <Before
              brew={brew}
              told={caution ? caution.text : ''}
              onGround={() => put.mutate({ kind: 'ground' })}
              busy={busy}
            />
          )}
          <div className={classes.below}>
            <div className={classes.next}>
              <span className="quiet">{brew.started_at ? 'then' : 'before'}</span>
              <p>{nextSaid(brew, now, clock)}</p>
              <p className="quiet small num">
                {streamed.lost
                  ? 'scale lost: the brew goes on'
                  : (reading?.scale_g ?? null) !== null &&
                    `${brew.instrument === 'simulated' ? 'simulated scale' : 'scale'} ${fixed(reading!.scale_g, 1)} g`}
                {(reading?.slurry_c ?? null) !== null &&
                  ` · slurry ${heat(reading!.slurry_c, 0)} · kettle ${heat(reading!.kettle_c, 0)}`}
                {marksSaid(brew) && ` · ${marksSaid(brew)}`}
              </p>
              {caution && (
                <p role="note" className={classes.caution}>
                  {caution.text}
                </p>
              )}
              {now.notes.length > 0 && <p className={classes.note}>{now.notes.at(-1)}</p>}
            </div>
            <Touches
              brew={brew}
              current={current}
              disabled={!running || busy}
              touch={touch}
              onBack={back}
              onDrop={() => drop.mutate()}
            />
            {now.phase === 'drink' && (
              <Button size="lg" variant="default" onClick={() => setWeighs(true)}>
                Weigh and log
              </Button>
            )}
            <button type="button" className={classes.go} disabled={busy} onClick={advance}>
              {key.says} <kbd>space</kbd>
            </button>
          </div>
        </>
      )}
    </main>
  );
}

/** The newest word on where the brew stands: the scale's, or the last answer's. */
function useStanding(brew: LiveBrew, reading: ReturnType<typeof useScale>['reading'], elapsed_s: number): Standing {
  const answered: Standing = { now: brew.now, at_s: brew.elapsed_s };
  if (!reading) return answered;
  const at_s = reading.source === 'wire' ? elapsed_s : reading.elapsed_s;
  return at_s + 0.3 >= brew.elapsed_s ? { now: reading.now, at_s } : answered;
}

function Head({ brew }: { brew: LiveBrew }) {
  return (
    <header className={classes.head}>
      <Penny stamp={brew.letter} size={44} />
      <div className={classes.who}>
        <h1>{brew.trial_id === null ? brew.name : `Brew ${calledOf(brew)} · ${brew.name}`}</h1>
        <p className="quiet">
          {fixed(brew.dose_g, 1)} g{brew.grind && ` · ${brew.grind}`} · {fixed(brew.water_g, 0)} g water
          {brew.temperature_c !== null && ` · ${heat(brew.temperature_c)}`}
          {brew.instrument === 'simulated' && (
            <b className={classes.simulated}>
              simulated instruments{brew.speed > 1 && `, ${brew.speed}× speed`}
              {brew.mistake && ', one mistake on purpose'}
            </b>
          )}
        </p>
      </div>
      <SoundSwitch />
      <AloudSwitch />
      <Link className={classes.leave} to={homeOf(brew)}>
        Leave, timer on
      </Link>
    </header>
  );
}

type BeforeProps = {
  brew: LiveBrew;
  /** The caution that stands at the step already: once is enough. */
  told: string;
  onGround: () => void;
  busy: boolean;
};

function Before({ brew, told, onGround, busy }: BeforeProps) {
  const cautions = (brew.cautions.length ? brew.cautions : [PLAIN_CAUTION]).filter((c) => c.text !== told);
  const ground = brew.marks.some((m) => m.kind === 'ground');
  return (
    <div className={classes.before}>
      <Button variant={ground ? 'light' : 'default'} size="md" disabled={busy} onClick={onGround}>
        {ground ? 'Ground: the minutes are counted' : 'Coffee ground now'}
      </Button>
      {brew.no_steps && <p className={classes.noSteps}>{brew.no_steps}</p>}
      {cautions.slice(0, 2).map((c) => (
        <p key={c.text} className="small quiet">
          {c.text}
        </p>
      ))}
    </div>
  );
}

type TouchesProps = {
  brew: LiveBrew;
  current: LiveStep | undefined;
  disabled: boolean;
  touch: (body: MarkBody) => void;
  onBack: () => void;
  onDrop: () => void;
};

/** What an eye sees and no scale does: one touch each, and the last press taken back. */
function Touches({ brew, current, disabled, touch, onBack, onDrop }: TouchesProps) {
  const drips = !brew.steps.some((x) => x.kind === 'press' || x.kind === 'break_crust');
  return (
    <div className={classes.chips}>
      {current?.cue && (
        <Button
          variant="light"
          size="md"
          className={classes.cue}
          disabled={disabled}
          onClick={() => touch({ kind: 'cue', text: current.cue })}
        >
          Seen: {current.cue}
        </Button>
      )}
      {current?.kind === 'hold_level' && (
        <Button variant="default" size="md" disabled={disabled} onClick={() => touch({ kind: 'level_held' })}>
          Level held
        </Button>
      )}
      {drips && !brew.marks.some((m) => m.kind === 'first_drip') && (
        <Button variant="default" size="md" disabled={disabled} onClick={() => touch({ kind: 'first_drip' })}>
          First drip
        </Button>
      )}
      <Discard onYes={onDrop}>
        {(ask) => (
          <Menu position="top-start">
            <Menu.Target>
              <Button variant="default" size="md" aria-label="More to note">
                More
              </Button>
            </Menu.Target>
            <Menu.Dropdown>
              <Menu.Item disabled={disabled} onClick={() => touch({ kind: 'spill' })}>
                Spill
              </Menu.Item>
              <Menu.Item disabled={disabled} onClick={() => touch({ kind: 'ended' })}>
                {brew.end.done} already
              </Menu.Item>
              <Menu.Divider />
              <Menu.Item color="red" onClick={ask}>
                Discard this brew
              </Menu.Item>
            </Menu.Dropdown>
          </Menu>
        )}
      </Discard>
      {brew.marks.length > 0 && (
        <Button variant="default" size="md" disabled={disabled} onClick={onBack}>
          Take back
        </Button>
      )}
    </div>
  );
}

/** Steps in which the vessel itself is what one watches. */
const OWN_STAGE = new Set(['break_crust', 'skim', 'invert', 'press']);
const PLAIN_CAUTION = { text: 'Boiling water and steam scald, and a dripper on a server topples: steady it.' };

const round = (value: number) => Math.round(value * 10) / 10;

/** A key of the keyboard, wherever the focus is but in a field. */
function useKey(wanted: string, run: () => void) {
  const latest = useRef(run);
  latest.current = run;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT|BUTTON|A)$/.test(event.target.tagName);
      if (event.key !== wanted || event.repeat || typing) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [wanted]);
}

/** A call a few seconds before each step is due, once. */
function useCalls(brew: LiveBrew, { now, at_s }: Standing, elapsed_s: number, running: boolean) {
  const called = useRef<number | null>(null);
  const wanted = now.begins_in_s - (elapsed_s - at_s) > 0 ? now.current : now.next;
  const step = brew.steps.find((s) => s.index === wanted);
  const due = step !== undefined && elapsed_s >= step.start_s - brew.ahead_s && elapsed_s < step.start_s;
  useEffect(() => {
    if (!running || !due || called.current === wanted) return;
    called.current = wanted;
    call();
  }, [running, due, wanted]);
}
