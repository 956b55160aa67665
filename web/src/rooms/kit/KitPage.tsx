import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, NavLink, useNavigate, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { DeletedLately } from '../history/DeletedLately';
import { KINDS, oneOf } from './facts';
import classes from './Kit.module.css';
import { KitDetail } from './KitDetail';
import { useKitForm } from './KitForm';
import { type Kit, type KitItem, type KitKind, kitQuery } from './queries';

/** Everything a brew is made with, by kind; beside it the one looked at. */
export function KitPage() {
  const { kind: asked = 'coffee', item: itemId } = useParams();
  const kind = KINDS.find((k) => k.kind === asked)?.kind ?? 'coffee';
  const kit = useQuery(kitQuery);
  const navigate = useNavigate();
  const form = useKitForm((saved) =>
    navigate(`/kit/${saved.kind === 'burr_set' ? 'grinder' : saved.kind}/${saved.id}`),
  );
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Kit</h1>
        <div className={classes.headActions}>
          <Button variant="default" component={Link} to="/kit/blend">
            Blend waters
          </Button>
          <Button variant="default" component={Link} to="/kit/translator">
            Translate a setting
          </Button>
          <Button onClick={() => form.open({ kind })}>Add a {oneOf(kind).toLowerCase()}</Button>
        </div>
      </header>
      <nav className={classes.kinds} aria-label="Kinds of kit">
        {KINDS.map((k) => (
          <NavLink
            key={k.kind}
            to={`/kit/${k.kind}`}
            className={kind === k.kind ? `${classes.kindLink} ${classes.here}` : classes.kindLink}
          >
            {k.many} <span className="num">{count(kit.data, k.kind)}</span>
          </NavLink>
        ))}
        <NavLink to="/kit/instruments" className={classes.kindLink!}>
          Accuracy, place, units
        </NavLink>
      </nav>
      <Loaded query={kit}>
        {(data) => {
          const items = data.items.filter((i) => i.kind === kind);
          const chosen = data.items.find((i) => i.id === itemId) ?? items[0];
          return (
            <div className={classes.columns}>
              {items.length ? (
                <ul className={classes.items}>
                  {items.map((i) => (
                    <li key={i.id}>
                      <ItemLink item={i} to={`/kit/${kind}/${i.id}`} here={chosen?.id === i.id} />
                      {kind === 'grinder' && (
                        <Burrs
                          kit={data}
                          grinder={i}
                          chosen={chosen?.id}
                          onAdd={() => form.open({ kind: 'burr_set', grinderId: i.id })}
                        />
                      )}
                    </li>
                  ))}
                </ul>
              ) : (
                <p className="card">Nothing here yet. What a setup names is added by itself; its facts can follow.</p>
              )}
              {chosen && (
                <KitDetail key={chosen.id} id={chosen.id} onEdit={(item) => form.open({ kind: item.kind, item })} />
              )}
            </div>
          );
        }}
      </Loaded>
      {form.form}
      <DeletedLately />
    </main>
  );
}

const count = (kit: Kit | undefined, kind: KitKind) =>
  kit?.items.filter((i) => i.kind === kind && !i.retired).length ?? '';

function ItemLink({ item, to, here }: { item: KitItem; to: string; here: boolean }) {
  return (
    <Link to={to} className={classes.item} aria-current={here || undefined} data-retired={item.retired || undefined}>
      <b>{item.name}</b>
      <span className="quiet small">
        {item.retired && 'retired · '}
        {item.summary || 'no facts yet'}
      </span>
    </Link>
  );
}

/** Burrs are parts of their own: one body, several sets. */
function Burrs({
  kit,
  grinder,
  chosen,
  onAdd,
}: {
  kit: Kit;
  grinder: KitItem;
  chosen: string | undefined;
  onAdd: () => void;
}) {
  const burrs = kit.items.filter((i) => i.kind === 'burr_set' && i.burr_set?.grinder_id === grinder.id);
  return (
    <div className={classes.burrs}>
      {burrs.map((b) => (
        <ItemLink key={b.id} item={b} to={`/kit/grinder/${b.id}`} here={chosen === b.id} />
      ))}
      <Button size="compact-xs" variant="subtle" onClick={onAdd}>
        Add burrs
      </Button>
    </div>
  );
}
