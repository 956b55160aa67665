import { Button, Group } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { FindBar } from '../../ui/FindBar';
import { Loaded } from '../../ui/Loading';
import { addressOf, listingOf } from '../../ui/listing';
import { Penny } from '../../ui/Penny';
import { DeletedLately } from '../history/DeletedLately';
import {
  allTrialsQuery,
  stationPath,
  TRIALS_SHOWN,
  type TrialListed,
  type TrialListing,
  tagsQuery,
} from '../progress/queries';
import { RailDots } from '../progress/Rail';
import classes from './TrialsPage.module.css';

const SHOWN = [
  { value: 'all', label: 'All' },
  { value: 'waiting', label: 'Waiting' },
  { value: 'judged', label: 'Judged' },
  { value: 'archived', label: 'Archived' },
] as const;

/** Every trial, found by its words, its tags and how far it is; with where it stands or what it found. */
export function TrialsPage() {
  const [params, setParams] = useSearchParams();
  const listing = listingOf(params, TRIALS_SHOWN);
  const [text] = useDebouncedValue(listing.text, 200);
  const trials = useInfiniteQuery(allTrialsQuery({ ...listing, text }));
  const { data: tags = [] } = useQuery(tagsQuery);
  const put = (patch: Partial<TrialListing>) =>
    setParams(addressOf({ ...listing, ...patch }, TRIALS_SHOWN), { replace: true });
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Trials</h1>
        <Group gap={8}>
          <Button component={Link} to="/brews/bring-in?of=scores" size="md" variant="default" visibleFrom="sm">
            Import scores
          </Button>
          <Button component={Link} to="/trials/new" size="md">
            Ask a question
          </Button>
        </Group>
      </header>
      <FindBar
        what="trials"
        placeholder="Words of the question, a note, a tag, or the number"
        shown={SHOWN}
        tags={tags}
        listing={listing}
        onListing={put}
      />
      <Loaded query={trials}>
        {({ pages }) =>
          pages[0]?.trials.length ? (
            <ul className={classes.list}>
              {pages
                .flatMap((page) => page.trials)
                .map((t) => (
                  <TrialLine key={t.id} trial={t} onTag={(tag) => put({ tag })} />
                ))}
            </ul>
          ) : (
            <p className="card">
              {Object.keys(Object.fromEntries(params)).length
                ? 'No trial matches. Try fewer words, or look among all.'
                : 'No trial yet. Every trial starts with one question.'}
            </p>
          )
        }
      </Loaded>
      {trials.hasNextPage && (
        <Button mt="md" variant="default" loading={trials.isFetchingNextPage} onClick={() => trials.fetchNextPage()}>
          Show more trials
        </Button>
      )}
      <DeletedLately />
    </main>
  );
}

function TrialLine({ trial: t, onTag }: { trial: TrialListed; onTag: (tag: string) => void }) {
  return (
    <li className={classes.line}>
      <span className={`num ${classes.number}`}>{t.number}</span>
      <div className={classes.what}>
        <Link className={classes.link} to={`/trials/${t.id}/${stationPath(t.next_station)}`}>
          {t.question}
        </Link>
        <p className="quiet small">
          {t.factor_label}
          {t.tags.map((tag) => (
            <button key={tag} type="button" className={classes.tag} onClick={() => onTag(tag)}>
              {tag}
            </button>
          ))}
        </p>
      </div>
      <span className={classes.coins}>
        {t.setups.map((letter) => (
          <Penny key={letter} stamp={letter} size={26} />
        ))}
      </span>
      <span className={classes.stops}>
        <RailDots stops={t.stops} />
      </span>
      <p className={classes.found}>
        {t.headline ? (
          <b>{t.headline}</b>
        ) : (
          <span className="quiet">{t.judging ? 'Being judged …' : t.next_action}</span>
        )}
      </p>
    </li>
  );
}
