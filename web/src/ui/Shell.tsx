import { Menu, Modal, UnstyledButton, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconCalculator, IconDots, IconMoon, IconSearch, IconSun } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, NavLink, Outlet, useMatch, useMatches, useNavigate } from 'react-router';
import { capital } from '../api/words';
import { sessionQuery } from '../rooms/bench/queries';
import { SampleBand } from '../rooms/bench/SampleBand';
import { Unlock } from '../rooms/bench/Unlock';
import { PersonPicker } from '../rooms/people/PersonPicker';
import { Mark } from './marks';
import { MORE, PAGES, ROOMS, STATIONS } from './rooms';
import classes from './Shell.module.css';
import { useTitle } from './title';
import { type Action, useFindKey, useKeys } from './useKeys';

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
        {ROOMS.map(({ to, label, mark }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={to === '/grind' ? `${classes.room} ${classes.wide}` : classes.room!}
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
        <PersonPicker className={`${classes.room} ${classes.wide}`} />
        <SchemeButton />
        <More onCalculators={() => setDrawer(true)} />
      </nav>
      <div className={classes.work} id="work">
        {session.data?.in_sample && <SampleBand />}
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
      <Modal opened={help} onClose={() => setHelp(false)} title="Keys">
        <dl className={classes.keys}>
          <div>
            <dt>
              <kbd>Ctrl</kbd>
              <kbd>K</kbd>
            </dt>
            <dd>Find anything</dd>
          </div>
          {actions
            .filter((a) => a.keys)
            .map((a) => (
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

function useOtherScheme() {
  const { setColorScheme } = useMantineColorScheme();
  const now = useComputedColorScheme('light');
  const next = now === 'dark' ? 'light' : 'dark';
  return { next, Icon: now === 'dark' ? IconSun : IconMoon, turn: () => setColorScheme(next) } as const;
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

/** What a phone's rail has no room for. */
function More({ onCalculators }: { onCalculators: () => void }) {
  const { next, turn } = useOtherScheme();
  return (
    <Menu position="top-end">
      <Menu.Target>
        <UnstyledButton className={`${classes.room} ${classes.narrow}`}>
          <IconDots size={20} stroke={1.6} aria-hidden />
          More
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        {MORE.map((p) => (
          <Menu.Item key={p.to} component={Link} to={p.to}>
            {p.label}
          </Menu.Item>
        ))}
        <Menu.Item onClick={onCalculators}>Calculators</Menu.Item>
        <Menu.Item onClick={turn}>{next === 'dark' ? 'Dark screen' : 'Light screen'}</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
