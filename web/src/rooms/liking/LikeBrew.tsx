import { Button, Chip, SegmentedControl } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useSend } from '../../ui/useSend';
import classes from './Liking.module.css';
import { LIKINGS, likedSaid, WHENS, withLiking, withWord } from './liking';
import { type Again, againQuery, brewAgain, type ChangeShown, type LikingBody, like, prepareAgain } from './queries';

/** How a brew was liked, in three touches, and brewing it again with one change. */
export function LikeBrew({ runId, called }: { runId: string; called: string }) {
  const [open, setOpen] = useState(false);
  return open ? (
    <Opened runId={runId} called={called} onClose={() => setOpen(false)} />
  ) : (
    <Button size="compact-sm" variant="light" onClick={() => setOpen(true)}>
      How was it?
    </Button>
  );
}

function Opened({ runId, called, onClose }: { runId: string; called: string; onClose: () => void }) {
  const { data: a } = useQuery(againQuery(runId));
  const [when, setWhen] = useState('');
  const client = useQueryClient();
  // The next touch rests on this answer, however soon it comes.
  const save = useSend((body: LikingBody) => like(runId, a!.rev, body), {
    onDone: (now) => client.setQueryData(againQuery(runId).queryKey, now),
  });
  if (!a) return null;
  return (
    <section className={classes.liking} aria-label={`How was ${called}?`}>
      <div className={classes.head}>
        <h3>How was it?</h3>
        <SegmentedControl
          size="xs"
          aria-label="When"
          value={when}
          onChange={setWhen}
          data={WHENS.map((w) => ({ value: w.code, label: w.label }))}
        />
        <Button size="compact-sm" variant="subtle" onClick={onClose}>
          Close
        </Button>
      </div>
      <div className={classes.nine} role="group" aria-label="Liking, 1 to 9">
        {LIKINGS.map((n) => (
          <button
            key={n}
            type="button"
            aria-pressed={a.by_pass[when] === n}
            disabled={save.isPending}
            onClick={() => save.mutate(withLiking(a, when, n))}
          >
            {n}
          </button>
        ))}
      </div>
      <div className={classes.ends}>
        <span>dislike extremely</span>
        <span>like extremely</span>
      </div>
      <div className={classes.words}>
        {a.taste_words.map((w) => (
          <Chip
            key={w}
            size="sm"
            checked={a.words.includes(w)}
            disabled={save.isPending}
            onChange={() => save.mutate(withWord(a, w))}
          >
            {w}
          </Chip>
        ))}
      </div>
      <p className="quiet small">
        {likedSaid(a)} {a.sighted}
      </p>
      <NextBrew again={a} />
    </section>
  );
}

/** The same again, or with one change; two where two rules pull apart. */
function NextBrew({ again: a }: { again: Again }) {
  const navigate = useNavigate();
  const go = useSend(
    async (code: string) => {
      const next = await brewAgain(a.run_id, code);
      return prepareAgain(next.setup_id, { instrument: 'none' });
    },
    { onDone: (live) => navigate(`/live-brews/${live.id}`) },
  );
  return (
    <div className={classes.next}>
      {a.changes.map((c) => (
        <Change key={c.code} change={c} busy={go.isPending} onBrew={() => go.mutate(c.code)} />
      ))}
      {a.disagreement && <p role="note">{a.disagreement}</p>}
      {a.changes.length === 0 && (
        <p className="quiet small">
          {a.missing.join(' ') ||
            (a.signs.length ? 'No rule speaks for one change.' : 'Say what it tasted of, and one change is proposed.')}
        </p>
      )}
      <Button variant="default" loading={go.isPending && go.variables === ''} onClick={() => go.mutate('')}>
        Brew it again, unchanged
      </Button>
    </div>
  );
}

function Change({ change, busy, onBrew }: { change: ChangeShown; busy: boolean; onBrew: () => void }) {
  return (
    <div className={classes.change}>
      <p>
        <b>{change.text}</b>
      </p>
      <p className="small">
        {change.reason} <span className="quiet">A {change.confidence} rule.</span>
      </p>
      {change.proposal.unknown && <p className="small">{change.proposal.unknown}</p>}
      {change.proposal.can_be_brewed && (
        <Button disabled={busy} onClick={onBrew}>
          Brew it again so
        </Button>
      )}
    </div>
  );
}
