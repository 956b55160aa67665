import { Button } from '@mantine/core';
import { useSend } from '../../ui/useSend';
import classes from './SampleBand.module.css';
import { leaveSample, removeSample, toTheBench } from './sample';

/** Above every page of the sample bench: what it is, the way back, and taking it away. */
export function SampleBand() {
  const leave = useSend(leaveSample, { onDone: toTheBench, leaves: true });
  const remove = useSend(removeSample, { onDone: toTheBench, leaves: true });
  return (
    <aside className={classes.band} aria-label="Sample bench">
      <p>
        <b>Sample bench.</b> Made-up trials to look round and try things on. None of it counts on your bench.
      </p>
      <Button size="compact-sm" loading={leave.isPending} onClick={() => leave.mutate()}>
        Back to your bench
      </Button>
      <Button size="compact-sm" variant="default" loading={remove.isPending} onClick={() => remove.mutate()}>
        Remove the sample
      </Button>
    </aside>
  );
}
