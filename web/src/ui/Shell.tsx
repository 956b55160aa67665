import { UnstyledButton } from '@mantine/core';
import { IconCalculator, IconSearch } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, NavLink, Outlet, useMatch, useMatches, useNavigate } from 'react-router';
import { capital } from '../api/words';
import { sessionQuery } from '../rooms/bench/queries';
import { Mark } from './marks';
import { MORE, PAGES, ROOMS, STATIONS } from './rooms';
import classes from './Shell.module.css';
import { useTitle } from './title';
import { type Action, useFindKey, useKeys } from './useKeys';
import { useOtherScheme } from './useOtherScheme';

// What is not on the first screen, or needs more of the kit than it, comes after it.
const Unlock = lazy(async () => ({ default: (await import('../rooms/bench/Unlock')).Unlock }));
const SampleBand = lazy(async () => ({ default: (await import('../rooms/bench/SampleBand')).SampleBand }));
const PersonPicker = lazy(async () => ({ default: (await import('../rooms/people/PersonPicker')).PersonPicker }));
const More = lazy(() => import('./More'));
const KeysHelp = lazy(() => import('./KeysHelp'));
const Palette = lazy(() => import('./palette/Palette'));
const CalculatorsDrawer = lazy(() => import('../rooms/calculators/CalculatorsDrawer'));

/** The frame around every room: rooms on the left, calculators and keys reachable anywhere. */
export function Shell() {
  const session = useQuery(sessionQuery);
  const navigate = useNavigate();
  const named = useMatches().map((m) => (m.handle as { title?: string } | undefined)?.title);
  useTitle(named.findLast(Boolean));
  const trialId = useMatch('/trials/:id/*')?.params.id;
  const [drawer, setDrawer] = useState(false);
  const [help, setHelp] = useState(false);
  const [finding, setFinding] = useState(false);
  const actions = useMemo<Action[]>(() => {
    const trial = trialId && trialId !== 'new' ? STATIONS : [];
    return [
      { keys: 'g n', label: 'Ask a new question', run: () => navigate('/trials/new') },
      { keys: 'g l', label: 'Brew a cup', run: () => navigate('/brew') },
      ...[...ROOMS, ...PAGES].map((p) => ({ keys: p.keys, label: p.label, hint: 'page', run: () => navigate(p.to) })),
      ...trial.map((station, i) => ({
        keys: String(i + 1),
        label: capital(station.replace('-', ' ')),
        hint: 'station of this trial',
        run: () => navigate(`/trials/${trialId}/${station}`),
      })),
      { keys: 'c', label: 'Calculators', run: () => setDrawer(true) },
      { keys: '?', label: 'Keys', run: () => setHelp(true) },
    ];
  }, [navigate, trialId]);
  useKeys(actions);
  useFindKey(() => setFinding(true));
  if (session.data?.locked)
    return (
      <Suspense>
        <Unlock byPassphrase={session.data.by_passphrase} />
      </Suspense>
    );
  return (
    <div className={classes.frame}>
      <a className={classes.skip} href="#work">
        Skip to the work
      </a>
      <nav className={classes.side} aria-label="Rooms">
        <Link to="/" className={classes.mark} aria-label="Brass Penny, to the bench">
          <img src="/icon.svg" alt="" width={38} height={38} />
        </Link>
        {ROOMS.map(({ to, label, mark }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={WIDE.has(to) ? `${classes.room} ${classes.wide}` : classes.room!}
          >
            <Mark of={mark} />
            {label}
          </NavLink>
        ))}
        <span className={classes.gap} />
        <UnstyledButton className={classes.room} onClick={() => setFinding(true)} title="Ctrl K">
          <IconSearch size={20} stroke={1.6} aria-hidden />
          Find
        </UnstyledButton>
        <UnstyledButton className={`${classes.room} ${classes.wide}`} onClick={() => setDrawer(true)}>
          <IconCalculator size={20} stroke={1.6} aria-hidden />
          Calculators
        </UnstyledButton>
        <Suspense fallback={<span className={`${classes.room} ${classes.wide}`} />}>
          <PersonPicker className={`${classes.room} ${classes.wide}`} />
        </Suspense>
        <SchemeButton />
        <Suspense>
          <More onCalculators={() => setDrawer(true)} />
        </Suspense>
      </nav>
      <div className={classes.work} id="work">
        <Suspense>{session.data?.in_sample && <SampleBand />}</Suspense>
        <Outlet />
      </div>
      <Suspense>
        {finding && (
          <Palette
            entries={actions.map((a) => ({ key: a.label, hint: 'action', ...a }))}
            onClose={() => setFinding(false)}
          />
        )}
      </Suspense>
      <Suspense>{drawer && <CalculatorsDrawer onClose={() => setDrawer(false)} />}</Suspense>
      <Suspense>{help && <KeysHelp actions={actions} onClose={() => setHelp(false)} />}</Suspense>
    </div>
  );
}

function SchemeButton() {
  const { next, Icon, turn } = useOtherScheme();
  return (
    <UnstyledButton className={`${classes.room} ${classes.wide}`} onClick={turn} aria-label={`Use the ${next} scheme`}>
      <Icon size={20} stroke={1.6} aria-hidden />
      {next === 'dark' ? 'Dark' : 'Light'}
    </UnstyledButton>
  );
}

/** Rooms a phone finds under "More". */
const WIDE: Set<string> = new Set(MORE.map((page) => page.to));
