import { Button, Popover, SegmentedControl, Select } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { clock } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import classes from './Along.module.css';
import { calledOf } from './marks';
import { type Instruments, type LiveBrew, liveBrewsQuery, prepare } from './queries';

const MISTAKES: { value: LiveBrew['mistake']; label: string }[] = [
  { value: '', label: 'none: a careful hand' },
  { value: 'fast', label: 'a pour too fast' },
  { value: 'late', label: 'the last pour late' },
  { value: 'spill', label: 'a spill' },
  { value: 'knock', label: 'the scale knocked' },
  { value: 'zeroed', label: 'the scale zeroed in the middle' },
  { value: 'short', label: 'the jug runs short' },
];

/** A made-up hand begins to pour by itself so long after the page is there. */
const HAND_BEGINS_S = 10;

/** How the simulated instruments go: how fast, and with which mistake made on purpose. */
export function useSimulated() {
  const [speed, setSpeed] = useState('1');
  const [mistake, setMistake] = useState<LiveBrew['mistake']>('');
  const asked = (instrument: LiveBrew['instrument']): Instruments =>
    instrument === 'simulated'
      ? { instrument, speed: Number(speed), mistake, begins_after_s: HAND_BEGINS_S }
      : { instrument };
  return { speed, setSpeed, mistake, setMistake, asked };
}

type SimulatedChoiceProps = {
  simulated: ReturnType<typeof useSimulated>;
  disabled?: boolean;
  loading: boolean;
  onGo: () => void;
};

export function SimulatedChoice({ simulated, disabled, loading, onGo }: SimulatedChoiceProps) {
  return (
    <Popover position="bottom-start" trapFocus>
      <Popover.Target>
        <Button variant="subtle" disabled={disabled ?? false} rightSection={<IconChevronDown size={14} aria-hidden />}>
          with simulated instruments
        </Button>
      </Popover.Target>
      <Popover.Dropdown className={classes.choice}>
        <p className="quiet small">
          A made-up scale, thermometer and refractometer follow the plan, and a made-up hand begins by itself. The brew
          is marked as simulated everywhere.
        </p>
        <SegmentedControl
          aria-label="Speed"
          value={simulated.speed}
          onChange={simulated.setSpeed}
          data={[
            { value: '1', label: 'Real time' },
            { value: '5', label: '5×' },
            { value: '20', label: '20×' },
          ]}
        />
        <Select
          label="A mistake on purpose"
          allowDeselect={false}
          comboboxProps={{ withinPortal: false }}
          value={simulated.mistake}
          onChange={(v) => simulated.setMistake(v as LiveBrew['mistake'])}
          data={MISTAKES}
        />
        <Button loading={loading} onClick={onGo}>
          Begin a simulated brew
        </Button>
      </Popover.Dropdown>
    </Popover>
  );
}

/** Brews that are being made already: any of them can be gone on with, here or on another device. */
export function GoOn({ brews }: { brews: LiveBrew[] }) {
  return brews.map((b) => (
    <Link key={b.id} className={classes.goOn} to={`/live-brews/${b.id}`}>
      <Penny stamp={b.letter} size={26} />
      {b.started_at
        ? `${calledOf(b)} is being brewed, ${clock(b.elapsed_s)}: go on`
        : `${calledOf(b)} is ready to be brewed`}
    </Link>
  ));
}

/** Begins a brew along its recipe, or goes on with one that is being made. */
export function BrewAlong({ trialId, setupId, letter }: { trialId: string; setupId: string; letter: string }) {
  const navigate = useNavigate();
  const { data } = useQuery(liveBrewsQuery(trialId));
  const simulated = useSimulated();
  const go = useSend((instrument: LiveBrew['instrument']) => prepare(trialId, setupId, simulated.asked(instrument)), {
    onDone: (brew) => navigate(`/live-brews/${brew.id}`),
  });
  return (
    <div className={classes.begin}>
      <GoOn brews={data?.brews ?? []} />
      <Button variant="light" loading={go.isPending && go.variables === 'none'} onClick={() => go.mutate('none')}>
        Brew {letter}, guided
      </Button>
      <Button variant="subtle" loading={go.isPending && go.variables === 'wire'} onClick={() => go.mutate('wire')}>
        with a connected scale
      </Button>
      <SimulatedChoice
        simulated={simulated}
        loading={go.isPending && go.variables === 'simulated'}
        onGo={() => go.mutate('simulated')}
      />
    </div>
  );
}
