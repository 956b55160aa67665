import { Button } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { FindBar } from '../../ui/FindBar';
import { Loaded } from '../../ui/Loading';
import { addressOf, listingOf } from '../../ui/listing';
import { dayAndTime, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { ratio } from '../../ui/units';
import { DeletedLately } from '../history/DeletedLately';
import lists from '../trials/TrialsPage.module.css';
import classes from './Brews.module.css';
import { Filing } from './Filing';
import { BREWS_SHOWN, type BrewListed, type BrewListing, brewsQuery, brewTagsQuery } from './queries';

const SHOWN = [
  { value: 'all', label: 'All' },
  { value: 'evidence', label: 'Of trials' },
  { value: 'dial_in', label: 'Dial-in' },
  { value: 'loose', label: 'Loose' },
  { value: 'archived', label: 'Archived' },
] as const;

/** Every brew of the bench, found by its words and tags. */
export function BrewsPage() {
  const [params, setParams] = useSearchParams();
  const listing = listingOf(params, BREWS_SHOWN);
  const [text] = useDebouncedValue(listing.text, 200);
  const brews = useInfiniteQuery(brewsQuery({ ...listing, text }));
  const { data: tags = [] } = useQuery(brewTagsQuery);
  const put = (patch: Partial<BrewListing>) =>
    setParams(addressOf({ ...listing, ...patch }, BREWS_SHOWN), { replace: true });
  return (
    <main className={lists.page}>
      <header className={lists.head}>
        <h1>Brews</h1>
        <span className={classes.actions}>
          <Button component={Link} to="/brews/bring-in" size="md" variant="default">
            Import a spreadsheet
          </Button>
          <Button component={Link} to="/brew" size="md">
            Brew a cup
          </Button>
        </span>
      </header>
      <FindBar
        what="brews"
        placeholder="Words of a note, a tag, the coffee, kit, recipe or question"
        shown={SHOWN}
        tags={tags}
        listing={listing}
        onListing={put}
      />
      <Loaded query={brews}>
        {({ pages }) =>
          pages[0]?.brews.length ? (
            <ul className={lists.list}>
              {pages
                .flatMap((page) => page.brews)
                .map((b) => (
                  <BrewLine key={b.run_id} brew={b} onTag={(tag) => put({ tag })} />
                ))}
            </ul>
          ) : (
            <p className="card">
              {params.size ? 'No brew matches. Try fewer words, or look among all.' : 'No brew is logged yet.'}
            </p>
          )
        }
      </Loaded>
      {brews.hasNextPage && (
        <Button mt="md" variant="default" loading={brews.isFetchingNextPage} onClick={() => brews.fetchNextPage()}>
          Show more brews
        </Button>
      )}
      <DeletedLately />
    </main>
  );
}

function BrewLine({ brew: b, onTag }: { brew: BrewListed; onTag: (tag: string) => void }) {
  const [filing, setFiling] = useState(false);
  return (
    <li className={classes.line}>
      <Penny stamp={b.letter} size={34} />
      <div className={classes.what}>
        <Link className={lists.link} to={b.trial_id ? `/trials/${b.trial_id}/brew` : '/brew'}>
          {b.trial_id ? `${b.label} · ${b.name}` : b.name || 'A loose brew'}
        </Link>
        <p className="quiet small">
          {[dayAndTime(b.brewed_at), b.coffee, b.brewer, b.recipe, b.simulated && 'simulated']
            .filter(Boolean)
            .join(' · ')}
          {b.tags.map((tag) => (
            <button key={tag} type="button" className={lists.tag} onClick={() => onTag(tag)}>
              {tag}
            </button>
          ))}
        </p>
        {b.note && <p className="small">{b.note}</p>}
      </div>
      <p className={`num ${classes.numbers}`}>
        {b.tds_pct === null ? 'not read' : `${fixed(b.tds_pct)} % TDS`}
        <br />
        {b.ey_pct === null ? ratio(b.brew_ratio) : `${fixed(b.ey_pct, 1)} ± ${fixed(b.ey_half_pct, 1)} %`}
      </p>
      <span className={`num ${classes.liked}`}>{b.liking === null ? '' : `liked ${fixed(b.liking, 1)}`}</span>
      <Button
        size="compact-sm"
        variant="subtle"
        aria-label={`Tags of ${b.label}, ${b.name}`}
        onClick={() => setFiling(true)}
      >
        Tags
      </Button>
      {filing && <Filing brew={b} onClose={() => setFiling(false)} />}
    </li>
  );
}
