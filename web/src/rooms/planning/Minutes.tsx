import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { clock } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import { prepare } from '../live_brews/queries';
import { setUpQuery } from '../trials/queries';
import { beginBrew, type Sheet } from './queries';
import classes from './RunSheet.module.css';

/** What the hands do, minute by minute; a brew begun or measured is ticked where it stands. */
export function Minutes({ trialId, sheet, running }: { trialId: string; sheet: Sheet; running: boolean }) {
  const navigate = useNavigate();
  const { data: setUp } = useQuery(setUpQuery(trialId));
  const along = useSend(
    (brew: string) =>
      prepare(trialId, setUp!.setups.find((x) => x.letter === brew.charAt(0))!.id, { instrument: 'none' }),
    { onDone: (live) => navigate(`/live-brews/${live.id}`) },
  );
  const hands = sheet.blocks.filter((b) => b.lane === 'hands');
  const begin = useSend((x: { brew: string; measured: boolean }) => beginBrew(sheet.id, sheet.rev, x.brew, x.measured));
  const heatsFirst = hands.every((b) => b.start_s >= 0);
  return (
    <section aria-labelledby="minutes">
      <h2 id="minutes">Minute by minute</h2>
      <ol className={classes.minutes}>
        {heatsFirst && (
          <li>
            <span className="num">0:00</span>
            <span />
            <span>Kettle on. Boiling water and steam scald.</span>
          </li>
        )}
        {hands.map((b) => (
          <li key={`${b.brew} ${b.start_s} ${b.label}`}>
            <span className="num">{clock(b.start_s)}</span>
            <span className={classes.who}>
              <Penny stamp={b.brew.charAt(0)} size={22} label={`Brew ${b.brew}`} />
              <b className="num">{b.brew}</b>
            </span>
            <span>{b.label}</span>
            <span className={classes.ticks}>
              {running && b.label.startsWith('Prepare') && !sheet.begun[b.brew] && (
                <Button
                  className={classes.tick}
                  size="compact-xs"
                  variant="light"
                  onClick={() => begin.mutate({ brew: b.brew, measured: false })}
                >
                  Start pour now
                </Button>
              )}
              {running && b.label.startsWith('Prepare') && !sheet.begun[b.brew]?.measured && (
                <Button
                  className={classes.tick}
                  size="compact-xs"
                  variant="subtle"
                  loading={along.isPending && along.variables === b.brew}
                  onClick={() => along.mutate(b.brew)}
                >
                  Brew along
                </Button>
              )}
              {running && b.label.startsWith('Stir') && sheet.begun[b.brew] && !sheet.begun[b.brew]!.measured && (
                <Button
                  className={classes.tick}
                  size="compact-xs"
                  variant="light"
                  onClick={() => begin.mutate({ brew: b.brew, measured: true })}
                >
                  Sample taken
                </Button>
              )}
              {sheet.begun[b.brew] && b.label.startsWith('Prepare') && (
                <span className={classes.done}>begun {clock(sheet.begun[b.brew]!.started_s)}</span>
              )}
              {sheet.begun[b.brew]?.measured && b.label.startsWith('Stir') && (
                <span className={classes.done}>taken</span>
              )}
            </span>
          </li>
        ))}
        <li className={classes.taste}>
          <span className="num">{clock(sheet.tasting_s)}</span>
          <span />
          <b>Taste</b>
        </li>
      </ol>
    </section>
  );
}
