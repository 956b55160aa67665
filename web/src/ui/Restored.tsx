import { Button } from '@mantine/core';

type RestoredProps = { form: { restored: boolean; startAfresh: () => void } };

/** Says that what was typed before is back, and offers to begin anew. */
export function Restored({ form }: RestoredProps) {
  if (!form.restored) return null;
  return (
    <p className="restored" role="status">
      What you typed here before is back.
      <Button size="compact-sm" variant="subtle" onClick={() => form.startAfresh()}>
        Clear it
      </Button>
    </p>
  );
}
