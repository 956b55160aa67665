import { ActionIcon, Button, Select } from '@mantine/core';
import { IconArrowsExchange } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { NumberField } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { fixed, readNumber } from '../../ui/numbers';
import { messageOf } from '../../ui/tell';
import classes from './Kit.module.css';
import { Matches } from './Matches';
import { type Scale, type Settings, settingsQuery, translateQuery } from './queries';
import { TwoScales } from './TwoScales';

/** "6.5 here is 23 clicks there": answered from matched pairs, with the spread they leave. */
export function TranslatorPage() {
  const settings = useQuery(settingsQuery);
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Translate a setting</h1>
        <Button variant="default" component={Link} to="/kit/grinder">
          Back to the grinders
        </Button>
      </header>
      <Loaded query={settings}>
        {(data) =>
          data.scales.length < 2 ? (
            <p className="card">
              Two grinders are needed, each with its burrs. <Link to="/kit/grinder">Add them to the kit</Link>, then say
              which settings grind alike.
            </p>
          ) : (
            <div className={classes.two}>
              <Translator settings={data} />
              <Matches settings={data} />
            </div>
          )
        }
      </Loaded>
    </main>
  );
}

function Translator({ settings }: { settings: Settings }) {
  const [first, second] = begin(settings);
  const [fromId, setFrom] = useState(first.id);
  const [toId, setTo] = useState(second.id);
  const from = settings.scales.find((s) => s.id === fromId) ?? first;
  const to = settings.scales.find((s) => s.id === toId) ?? second;
  const [text, setText] = useState(() => String(middle(from, settings, to) ?? ''));
  const read = readNumber(text);
  const setting = read.kind === 'number' ? read.value : null;
  const asked = useQuery({
    ...translateQuery(from.id, to.id, setting ?? 0),
    enabled: setting !== null && from.id !== to.id,
  });
  const found = setting !== null && !asked.isError ? asked.data : undefined;
  const names = settings.scales.map((s) => ({ value: s.id, label: s.name }));
  const between = settings.pairs.filter((p) => [p.a_id, p.b_id].includes(from.id) && [p.a_id, p.b_id].includes(to.id));
  return (
    <section className="card" aria-label="Translator">
      <div className={classes.asking}>
        <Select label="From" data={names} allowDeselect={false} value={from.id} onChange={(v) => setFrom(v!)} />
        <NumberField
          label="Its setting"
          value={text}
          onText={setText}
          error={read.kind === 'bad' ? 'Write a number.' : undefined}
        />
        <ActionIcon
          size={36}
          variant="default"
          aria-label="Turn round"
          disabled={asked.isPlaceholderData} // the answer in view is still that of what was typed before
          onClick={() => {
            setFrom(to.id);
            setTo(from.id);
            if (found) setText(String(found.nearest));
          }}
        >
          <IconArrowsExchange size={18} />
        </ActionIcon>
        <Select label="On" data={names} allowDeselect={false} value={to.id} onChange={(v) => setTo(v!)} />
      </div>
      <div aria-live="polite">
        {asked.isError && setting !== null && (
          <p className={classes.fault} style={{ marginTop: 16 }}>
            {messageOf(asked.error)}
          </p>
        )}
        {found && (
          <>
            <div className={classes.answer}>
              <output aria-label="Translated setting">{found.nearest}</output>
              <span>
                anywhere from <b className="num">{fixed(found.low, 1)}</b> to{' '}
                <b className="num">{fixed(found.high, 1)}</b>
              </span>
              <span className="quiet">matched by {found.matches.join(', ')}</span>
            </div>
            {found.through && <p className="quiet">No match joins the two: it goes through {found.through}.</p>}
            {found.warnings.map((w) => (
              <p key={w} className={classes.caution}>
                {w}
              </p>
            ))}
          </>
        )}
      </div>
      <TwoScales
        from={from}
        to={to}
        pairs={between}
        setting={setting}
        found={found}
        onSetting={(v) => setText(String(v))}
      />
      {found && (
        <p className="small quiet">
          It rests on {found.evidence.join('; ')}. Solid lines are matched by sieve, dashed by time or yield, dotted by
          eye. Outside the matches nothing is guessed.
        </p>
      )}
    </section>
  );
}

/** The two grinders most matched with each other, to begin with. */
function begin(settings: Settings): [Scale, Scale] {
  const byId = (id: string) => settings.scales.find((s) => s.id === id);
  const counts = new Map<string, number>();
  for (const p of settings.pairs) counts.set(`${p.a_id} ${p.b_id}`, (counts.get(`${p.a_id} ${p.b_id}`) ?? 0) + 1);
  const [best] = [...counts].sort((x, y) => y[1] - x[1]);
  const [a, b] = (best?.[0] ?? '').split(' ');
  return [byId(a ?? '') ?? settings.scales[0]!, byId(b ?? '') ?? settings.scales[1]!];
}

function middle(from: Scale, settings: Settings, to: Scale): number | null {
  const mine = settings.pairs
    .filter((p) => [p.a_id, p.b_id].includes(from.id) && [p.a_id, p.b_id].includes(to.id))
    .map((p) => (p.a_id === from.id ? p.a_setting : p.b_setting));
  if (!mine.length) return null;
  const half = (Math.min(...mine) + Math.max(...mine)) / 2;
  return Number((Math.round(half / from.step) * from.step).toFixed(3));
}
