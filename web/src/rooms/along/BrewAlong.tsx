import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { clock } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import classes from './Along.module.css';
import { liveBrewsQuery, prepare } from './queries';

/** Begins a brew along its recipe, or goes on with one that is being made. */
export function BrewAlong({ trialId, setupId, letter }: { trialId: string; setupId: string; letter: string }) {
  const navigate = useNavigate();
  const { data } = useQuery(liveBrewsQuery(trialId));
  const go = useSend((instrument: 'none' | 'simulated') => prepare(trialId, setupId, instrument), {
    onDone: (brew) => navigate(`/along/${brew.id}`),
  });
  return (
    <div className={classes.begin}>
      {(data?.brews ?? []).map((b) => (
        <Link key={b.id} className={classes.goOn} to={`/along/${b.id}`}>
          <Penny stamp={b.letter} size={26} />
          {b.started_at
            ? `${b.letter}${b.number} is being brewed, ${clock(b.elapsed_s)}: go on`
            : `${b.letter}${b.number} is ready to be brewed`}
        </Link>
      ))}
      <Button variant="light" loading={go.isPending && go.variables === 'none'} onClick={() => go.mutate('none')}>
        Brew {letter} along its recipe
      </Button>
      <Button
        variant="subtle"
        loading={go.isPending && go.variables === 'simulated'}
        onClick={() => go.mutate('simulated')}
      >
        with a simulated scale
      </Button>
    </div>
  );
}
