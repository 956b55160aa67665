import { Button, Modal } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { shownAtField, useForm } from '../../ui/fields';
import { Tags } from '../../ui/Tags';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './Brews.module.css';
import { type BrewListed, brewTagsQuery, fileRun } from './queries';

const MOST_TAGS = 12;

/** Words to find a brew by, and putting it away: what it proves stays as it is. */
export function Filing({ brew, onClose }: { brew: BrewListed; onClose: () => void }) {
  const [tags, setTags] = useState(brew.tags);
  const form = useForm<Record<string, string>>({});
  const { data: known = [] } = useQuery(brewTagsQuery);
  const how = { onTrouble: shownAtField(form.setRefused) };
  const save = useSend(() => fileRun(brew.run_id, brew.rev, { tags }), { ...how, onDone: onClose });
  const archive = useSend(() => fileRun(brew.run_id, brew.rev, { archived: !brew.archived }), {
    ...how,
    onDone: (now) => {
      tellDone(now.archived ? 'Archived: it counts as before, and is listed under Archived.' : 'It is listed again.');
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title={`Tags of ${brew.trial_id ? brew.label : brew.name}`}>
      <form
        className={classes.filing}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <Tags
          label="Tags"
          description="Words to find it by. Enter after each."
          placeholder="guests, last of the bag"
          maxTags={MOST_TAGS}
          maxLength={24}
          data={known}
          value={tags}
          onChange={setTags}
          error={form.refused?.at('tags')}
          data-autofocus
        />
        <div className={classes.actions}>
          <Button type="submit" loading={save.isPending}>
            Save tags
          </Button>
          <Button variant="subtle" loading={archive.isPending} onClick={() => archive.mutate()}>
            {brew.archived ? 'Bring back from the archive' : 'Archive the brew'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
