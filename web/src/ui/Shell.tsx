import { Modal, UnstyledButton, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import {
  IconCalculator,
  IconChartDots,
  IconCoins,
  IconFilter,
  IconKeyboard,
  IconMoon,
  IconStack2,
  IconStairsUp,
  IconSun,
  IconTable,
} from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, NavLink, Outlet, useMatches, useNavigate } from 'react-router';
import { sessionQuery } from '../rooms/bench/queries';
import { SampleBand } from '../rooms/bench/SampleBand';
import { Unlock } from '../rooms/bench/Unlock';
import { PersonPicker } from '../rooms/people/PersonPicker';
import classes from './Shell.module.css';
import { useTitle } from './title';
import { type Action, useKeys } from './useKeys';

const CalculatorsDrawer = lazy(() => import('../rooms/calculators/CalculatorsDrawer'));

const ROOMS = [
  { to: '/', label: 'Bench', keys: 'g b', Icon: IconTable },
  { to: '/trials', label: 'Trials', keys: 'g t', Icon: IconCoins },
  { to: '/recipes', label: 'Recipes', keys: 'g r', Icon: IconStairsUp },
  { to: '/kit', label: 'Kit', keys: 'g k', Icon: IconFilter },
  { to: '/grind', label: 'Grind', keys: 'g g', Icon: IconStack2 },
  { to: '/chart-room', label: 'Charts', keys: 'g c', Icon: IconChartDots },
] as const;

/** The frame around every room: rooms on the left, calculators and keys reachable anywhere. */
export function Shell() {
  const session = useQuery(sessionQuery);
  const navigate = useNavigate();
  const named = useMatches().map((m) => (m.handle as { title?: string } | undefined)?.title);
  useTitle(named.findLast(Boolean));
  const [drawer, setDrawer] = useState(false);
  const [help, setHelp] = useState(false);
  const actions = useMemo<Action[]>(
    () => [
      ...ROOMS.map((room) => ({ keys: room.keys, label: `Go to ${room.label}`, run: () => navigate(room.to) })),
      { keys: 'g l', label: 'Brew without a trial', run: () => navigate('/brew') },
      { keys: 'g n', label: 'Ask a new question', run: () => navigate('/trials/new') },
      { keys: 'c', label: 'Open the calculators', run: () => setDrawer(true) },
      { keys: '?', label: 'Show these keys', run: () => setHelp(true) },
    ],
    [navigate],
  );
  useKeys(actions);
  if (session.data?.locked) return <Unlock />;
  return (
    <div className={classes.frame}>
      <a className={classes.skip} href="#work">
        Skip to the work
      </a>
      <nav className={classes.side} aria-label="Rooms">
        <Link to="/" className={classes.mark} aria-label="Brass Penny, to the bench">
          <img src="/icon.svg" alt="" width={38} height={38} />
        </Link>
        {ROOMS.map(({ to, label, Icon }) => (
          <NavLink key={to} to={to} end={to === '/'} className={classes.room}>
            <Icon size={20} stroke={1.6} aria-hidden />
            {label}
          </NavLink>
        ))}
        <span className={classes.gap} />
        <UnstyledButton className={classes.room} onClick={() => setDrawer(true)}>
          <IconCalculator size={20} stroke={1.6} aria-hidden />
          Calculators
        </UnstyledButton>
        <PersonPicker className={classes.room!} />
        <SchemeButton />
        <UnstyledButton className={`${classes.room} ${classes.wide}`} onClick={() => setHelp(true)}>
          <IconKeyboard size={20} stroke={1.6} aria-hidden />
          Keys
        </UnstyledButton>
      </nav>
      <div className={classes.work} id="work">
        {session.data?.in_sample && <SampleBand />}
        <Outlet />
      </div>
      <Suspense>{drawer && <CalculatorsDrawer onClose={() => setDrawer(false)} />}</Suspense>
      <Modal opened={help} onClose={() => setHelp(false)} title="Keys">
        <dl className={classes.keys}>
          {actions.map((a) => (
            <div key={a.keys}>
              <dt>
                {a.keys.split(' ').map((key) => (
                  <kbd key={key}>{key}</kbd>
                ))}
              </dt>
              <dd>{a.label}</dd>
            </div>
          ))}
        </dl>
      </Modal>
    </div>
  );
}

function SchemeButton() {
  const { setColorScheme } = useMantineColorScheme();
  const now = useComputedColorScheme('light');
  const next = now === 'dark' ? 'light' : 'dark';
  const Icon = now === 'dark' ? IconSun : IconMoon;
  return (
    <UnstyledButton
      className={`${classes.room} ${classes.wide}`}
      onClick={() => setColorScheme(next)}
      aria-label={`Use the ${next} scheme`}
    >
      <Icon size={20} stroke={1.6} aria-hidden />
      {next === 'dark' ? 'Dark' : 'Light'}
    </UnstyledButton>
  );
}
