import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { clock, dayAndTime, fixed, plural } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { bag, withUnit } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { HowWasIt } from '../liking/HowWasIt';
import { FACT_FIELDS, type FactField, oneOf } from './facts';
import classes from './Kit.module.css';
import { Learnt } from './Learnt';
import {
  addStock,
  type KitDetail as Detail,
  type KitItem,
  kitItemQuery,
  kitQuery,
  removeKitItem,
  retireKitItem,
  unretireKitItem,
} from './queries';

/** One piece of kit: what is worked out about it, its facts, who uses it. */
export function KitDetail({ id, onEdit }: { id: string; onEdit: (item: KitItem) => void }) {
  const detail = useQuery(kitItemQuery(id));
  return (
    <Loaded query={detail}>
      {(d) => (
        <article className="card" aria-label={d.item.full_name}>
          <header className={classes.detailHead}>
            <div>
              <p className="quiet small">
                {oneOf(d.item.kind)}
                {d.item.retired && ' · retired'}
              </p>
              <h2>{d.item.full_name}</h2>
            </div>
            <div className={classes.headActions}>
              {CARDED.has(d.item.kind) && (
                <Button component={Link} to={`/kit/card/${d.item.id}`} variant="default">
                  Its card
                </Button>
              )}
              <Button variant="default" onClick={() => onEdit(d.item)}>
                Change the facts
              </Button>
            </div>
          </header>
          {(d.worked_out.length > 0 || d.stock_g !== null) && <WorkedOut detail={d} />}
          <Facts item={d.item} />
          {d.item.kind === 'coffee' && <Stock detail={d} />}
          {d.item.kind === 'coffee' && <HowWasIt coffee={d.item.name} days={1500} heading="How it was liked" />}
          {d.cautions.map((c) => (
            <p key={c} className={classes.caution}>
              {c}
            </p>
          ))}
          {d.item.kind === 'brewer' && d.used_by_runs >= 3 && <Learnt id={d.item.id} />}
          <Uses detail={d} />
        </article>
      )}
    </Loaded>
  );
}

function WorkedOut({ detail }: { detail: Detail }) {
  return (
    <div className={classes.worked}>
      {detail.stock_g !== null && (
        <Big value={bag(detail.stock_g)} unit="" label="In stock" text="Stock updates with each brew." />
      )}
      {detail.worked_out.map((w) => (
        <Big
          key={w.label}
          value={w.value === null ? '' : fixed(w.value, w.unit === 'days' ? 0 : w.unit === 'g/g' ? 2 : 1)}
          unit={w.unit}
          label={w.label}
          text={w.text}
        />
      ))}
    </div>
  );
}

function Big({ value, unit, label, text }: { value: string; unit: string; label: string; text: string }) {
  return (
    <div>
      <p className="quiet small">{label}</p>
      {value && (
        <p className={classes.big}>
          {value} <span>{unit}</span>
        </p>
      )}
      <p className="small">{text}</p>
    </div>
  );
}

function Facts({ item }: { item: KitItem }) {
  const { data: kit } = useQuery(kitQuery);
  const facts = (item[item.kind] ?? {}) as Record<string, unknown>;
  const shown = (f: FactField, value: unknown): string => {
    if (f.form === 'choice') return f.options.find(([code]) => code === value)?.[1] ?? String(value);
    if (f.form === 'brewer_type') return kit?.brewer_types.find((t) => t.code === value)?.label ?? String(value);
    if (f.form === 'grinder') return kit?.items.find((i) => i.id === value)?.name ?? '?';
    if (f.form === 'duration') return clock(value as number);
    if (f.form === 'hardness') return `${value} mg/L as CaCO₃`;
    if (f.form === 'yes') return 'yes';
    if (Array.isArray(value)) return `${value.join(', ')} ${f.unit}`;
    return withUnit(String(value), f.unit);
  };
  const known = FACT_FIELDS[item.kind].filter((f) => {
    const value = facts[f.name];
    if (f.name === 'robusta_share') return facts.species === 'blend';
    return value !== null && value !== undefined && value !== '' && value !== false;
  });
  if (!known.length) return <p className="quiet">No facts yet.</p>;
  return (
    <dl className={classes.facts}>
      {known.map((f) => (
        <div key={f.name}>
          <dt>{f.label}</dt>
          <dd>{shown(f, facts[f.name])}</dd>
        </div>
      ))}
    </dl>
  );
}

function Stock({ detail }: { detail: Detail }) {
  const form = useForm({ mass_g: '', note: '' });
  const add = useSend(
    async () => {
      const mass = numberOf('mass_g', form.values.mass_g);
      if (mass === null)
        throw localRefusal('mass_g', 'nothing is typed.', 'Give grams; less than none when some was lost.');
      return addStock(detail.item.id, mass, form.values.note);
    },
    { onDone: () => form.setValues({ mass_g: '', note: '' }), onTrouble: shownAtField(form.setRefused) },
  );
  return (
    <section className={classes.stock} aria-labelledby="stock">
      <h3 id="stock">Stock</h3>
      <form
        className={classes.adder}
        onSubmit={(e) => {
          e.preventDefault();
          add.mutate();
        }}
      >
        <NumberField
          aria-label="Grams bought or lost"
          placeholder="250"
          unit="g"
          value={form.values.mass_g}
          onText={(text) => form.set('mass_g', text)}
          error={form.refused?.at('mass_g')}
        />
        <TextInput
          aria-label="Note"
          placeholder="bought, or why it went"
          maxLength={120}
          value={form.values.note}
          onChange={(e) => form.set('note', e.currentTarget.value)}
        />
        <Button type="submit" variant="default" loading={add.isPending}>
          Add to stock
        </Button>
      </form>
      {detail.stock.length > 0 && (
        <ul className={classes.stockLines}>
          {detail.stock.slice(0, 6).map((line) => (
            <li key={line.id}>
              <span className="num">
                {line.mass_g > 0 ? '+' : ''}
                {bag(line.mass_g)}
              </span>
              <span>{line.note}</span>
              <span className="quiet small">{dayAndTime(line.at)}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What a card is kept of. */
const CARDED = new Set(['grinder', 'burr_set', 'brewer', 'filter']);

/** What the charts can be filtered by. */
const CHARTED = new Set(['coffee', 'brewer', 'grinder', 'burr_set']);

function Uses({ detail }: { detail: Detail }) {
  const { item } = detail;
  const navigate = useNavigate();
  const tellDeleted = useTellDeleted();
  const retire = useSend(() => retireKitItem(item.id, item.rev));
  const back = useSend(() => unretireKitItem(item.id, item.rev));
  const remove = useSend(() => removeKitItem(item.id), {
    onDone: (done) => {
      tellDeleted(item.full_name, done.change_id);
      navigate(`/kit/${item.kind === 'burr_set' ? 'grinder' : item.kind}`);
    },
  });
  const used = detail.used_by_setups > 0;
  return (
    <footer className={classes.uses}>
      {CHARTED.has(item.kind) && detail.used_by_runs > 0 && (
        <Link to={`/charts?${item.kind === 'burr_set' ? 'grinder' : item.kind}=${encodeURIComponent(item.full_name)}`}>
          Its {plural(detail.used_by_runs, 'brew')} in the charts
        </Link>
      )}
      <span className="quiet small">
        {used
          ? `In ${plural(detail.used_by_setups, 'setup')}, ${plural(detail.used_by_runs, 'brew')}: it can be retired, not deleted.`
          : 'Not used yet.'}
      </span>
      {item.retired ? (
        <Button variant="default" size="compact-sm" onClick={() => back.mutate()}>
          Offer it again
        </Button>
      ) : (
        <Button variant="default" size="compact-sm" onClick={() => retire.mutate()}>
          Retire it
        </Button>
      )}
      {!used && (
        <Confirm
          question={`Delete ${item.full_name}?`}
          detail="It can be undone."
          verb="Delete it"
          onYes={() => remove.mutate()}
        >
          {(ask) => (
            <Button variant="subtle" color="red" size="compact-sm" onClick={ask}>
              Delete it
            </Button>
          )}
        </Confirm>
      )}
    </footer>
  );
}
