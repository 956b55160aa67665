import { Button, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { Staircase } from '../../charts/staircase/Staircase';
import { Loaded } from '../../ui/Loading';
import { clock, fixed } from '../../ui/numbers';
import { pictureOf } from '../../ui/picture';
import { tellTrouble } from '../../ui/tell';
import { heatUnit, ratio } from '../../ui/units';
import { kitQuery, settingsQuery } from '../kit/queries';
import classes from './Card.module.css';
import { type Card, type CardQuery, type Checked, cardQuery } from './queries';

/** The recipe on one page, to print or to keep as a picture. */
export function CardPage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const version = Number(params.get('version')) || undefined;
  // In the address, so that a card sent on opens for the grinder it was made for.
  const known = { dial_id: params.get('on') ?? '', setting: params.get('setting') ?? '' };
  const coffee = params.get('coffee') ?? '';
  const heat = (params.get('heat') ?? heatUnit().slice(1)) === 'F' ? 'F' : 'C';
  const keep = (name: string, value: string) =>
    setParams(
      (now) => {
        value ? now.set(name, value) : now.delete(name);
        return now;
      },
      { replace: true },
    );
  const setKnown = (next: { dial_id: string; setting: string }) =>
    setParams(
      (now) => {
        for (const [name, value] of [
          ['on', next.dial_id],
          ['setting', next.setting],
        ] as const)
          value ? now.set(name, value) : now.delete(name);
        return now;
      },
      { replace: true },
    );
  const asked: CardQuery = {
    ...(version && { version }),
    ...(known.dial_id && known.setting.trim() && known),
    ...(coffee && { coffee }),
    heat,
  };
  const { data: kit } = useQuery(kitQuery);
  const card = useQuery(cardQuery(id, asked));
  const { data: settings } = useQuery(settingsQuery);
  const page = useRef<HTMLElement>(null);
  const savePicture = async () => {
    try {
      const link = document.createElement('a');
      link.href = await pictureOf(page.current!);
      link.download = `${card.data?.name ?? 'recipe'}.png`;
      link.click();
    } catch (error) {
      tellTrouble(error);
    }
  };
  return (
    <main className={classes.whole}>
      <div className={classes.tools}>
        <Button variant="subtle" component={Link} to={`/recipes/${id}`}>
          Back to the recipe
        </Button>
        <Select
          w={180}
          aria-label="Grinder whose setting is known"
          placeholder="Known on a grinder"
          clearable
          clearButtonProps={{ 'aria-label': 'No grinder' }}
          data={settings?.scales.map((s) => ({ value: s.id, label: s.name })) ?? []}
          value={known.dial_id || null}
          onChange={(dial_id) => setKnown({ setting: dial_id ? known.setting : '', dial_id: dial_id ?? '' })}
        />
        {known.dial_id && (
          <TextInput
            aria-label="Its setting"
            placeholder="its setting"
            w={120}
            maxLength={24}
            value={known.setting}
            onChange={(e) => setKnown({ ...known, setting: e.currentTarget.value })}
          />
        )}
        <Select
          w={150}
          aria-label="Coffee the card is for"
          placeholder="For a coffee"
          clearable
          clearButtonProps={{ 'aria-label': 'No coffee' }}
          data={kit?.items.filter((i) => i.kind === 'coffee').map((i) => ({ value: i.id, label: i.name })) ?? []}
          value={coffee || null}
          onChange={(value) => keep('coffee', value ?? '')}
        />
        <SegmentedControl
          aria-label="Temperatures in"
          value={heat}
          onChange={(value) => keep('heat', value)}
          data={[
            { value: 'C', label: '°C' },
            { value: 'F', label: '°F' },
          ]}
        />
        <span style={{ flex: 1 }} />
        <Button variant="default" onClick={savePicture} disabled={!card.data}>
          Save as a picture
        </Button>
        <Button onClick={() => window.print()} disabled={!card.data}>
          Print
        </Button>
      </div>
      <Loaded query={card}>{(c) => <Page card={c} page={page} />}</Loaded>
    </main>
  );
}

function Page({ card, page }: { card: Card; page: React.RefObject<HTMLElement | null> }) {
  const { checked, document: doc } = card;
  const [low, high] = doc.total_time_s ?? [];
  const targets = [
    windowWords('whole brew', low, high, clock),
    windowWords('TDS', doc.tds_pct?.[0], doc.tds_pct?.[1], (v) => `${v} %`),
    windowWords('yield', doc.ey_pct?.[0], doc.ey_pct?.[1], (v) => `${v} %`),
    doc.beverage_g != null ? `beverage ${fixed(doc.beverage_g, 0)} g` : '',
  ].filter(Boolean);
  return (
    <article ref={page} className={`${classes.card} paper`} aria-label={`Card of ${card.name}`}>
      <header>
        <div>
          <h1>{card.name}</h1>
          <p className="quiet">
            version {card.version}
            {card.brewer && ` · ${card.brewer.toLowerCase()}`}
            {doc.filter && ` · ${doc.filter}`}
          </p>
          {card.coffee && (
            <p>
              <b>{card.coffee}</b> {card.coffee_words && <span className="quiet">· {card.coffee_words}</span>}
            </p>
          )}
        </div>
        {checked.concentrate && <b className={classes.concentrate}>Concentrate: dilute before drinking</b>}
        {checked.draft && <b className={classes.draft}>Draft: has errors</b>}
      </header>
      <dl className={classes.amounts}>
        <Amount name="coffee" value={doc.dose_g == null ? '–' : `${fixed(doc.dose_g, 1)} g`} />
        <Amount
          name={checked.bypass_g ? `water + ${fixed(checked.bypass_g, 0)} g bypass` : 'water'}
          value={`${fixed(checked.poured_g, 0)} g`}
        />
        <Amount
          name={`${fixed(checked.g_per_l, 1)} g/L · ${fixed(checked.g_per_100g, 2)} g/100 g`}
          value={ratio(checked.brew_ratio)}
        />
        <Amount name="temperature" value={card.heat || '–'} />
        <Amount name="whole brew, about" value={clock(checked.total_s)} />
      </dl>
      <Staircase timeline={checked.timeline} total_s={checked.total_s} window_s={doc.total_time_s} height={190} />
      <div className={classes.two}>
        <ol className={classes.steps}>
          {card.lines.map((line) => (
            <CardStep key={line.steps.join(' ') || 'over'} line={line} cautions={checked.cautions} />
          ))}
        </ol>
        <div className={classes.notes}>
          {(card.settings.length > 0 || card.not_linked.length > 0 || doc.grind) && (
            <section>
              <h2>Grind</h2>
              {doc.grind && <p>{doc.grind}</p>}
              {card.not_linked.map((g) => (
                <p key={g.on}>
                  {g.on} <b className="num">{g.setting}</b>
                </p>
              ))}
              {card.settings.map((s) => (
                <p key={s.dial_id}>
                  {s.grinder} <b className="num">{s.setting}</b>
                  {s.spread && (
                    <span className="quiet small">
                      {' '}
                      ({s.spread}; {s.matches.join(', ')})
                    </span>
                  )}
                </p>
              ))}
              {card.settings.length > 0 && card.not_vouched.length > 0 && (
                <p className="quiet small">No match leads to {card.not_vouched.join(', ')}.</p>
              )}
            </section>
          )}
          {card.water && (
            <section>
              <h2>Water</h2>
              <p>{card.water}</p>
            </section>
          )}
          {targets.length > 0 && (
            <section>
              <h2>Targets</h2>
              {targets.map((t) => (
                <p key={t}>{t}</p>
              ))}
            </section>
          )}
          {(doc.fast || doc.on_time || doc.slow) && (
            <section>
              <h2>By taste</h2>
              {doc.fast && <p>Too fast: {doc.fast}</p>}
              {doc.on_time && <p>On time: {doc.on_time}</p>}
              {doc.slow && <p>Too slow: {doc.slow}</p>}
            </section>
          )}
          {checked.cautions.some((c) => c.steps.length === 0) && (
            <section>
              <h2>Take care</h2>
              {checked.cautions
                .filter((c) => c.steps.length === 0)
                .map((c) => (
                  <p key={c.code} className="small">
                    {c.text}
                  </p>
                ))}
            </section>
          )}
        </div>
      </div>
    </article>
  );
}

type CardStepProps = { line: Card['lines'][number]; cautions: Checked['cautions'] };

/** One moment: when it is, said once, what is done, and the cautions that belong to it. */
function CardStep({ line, cautions }: CardStepProps) {
  return (
    <li>
      <span className="num">{line.at_s === null ? 'before' : clock(line.at_s)}</span>
      <span>
        {line.text}
        {cautions
          .filter((c) => c.steps.some((i) => line.steps.includes(i)))
          .map((c) => (
            <span key={c.code} className={classes.caution}>
              {c.text}
            </span>
          ))}
      </span>
    </li>
  );
}

function windowWords(
  name: string,
  low: number | null | undefined,
  high: number | null | undefined,
  show: (v: number) => string,
): string {
  if (low != null && high != null) return `${name} ${show(low)} to ${show(high)}`;
  if (high != null) return `${name} by ${show(high)}`;
  return low != null ? `${name} from ${show(low)}` : '';
}

function Amount({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dd className="num">{value}</dd>
      <dt>{name}</dt>
    </div>
  );
}
