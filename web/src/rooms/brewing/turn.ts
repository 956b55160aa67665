import type { Schemas } from '../../api/client';

export type Slot = Schemas['SlotShown'];
type Brewed = { id: string; runs: number };

/** Whose turn it is: the setup of the first open slot, else the one brewed least. justBrewed: fills the first open slot of its own, though the bench has not said so yet. */
export function nextSetup(slots: Slot[], setups: Brewed[], justBrewed = ''): string {
  const own = slots.findIndex((s) => !s.run_id && s.setup_id === justBrewed);
  const open = slots.find((s, i) => !s.run_id && i !== own);
  if (open) return open.setup_id;
  const runs = (s: Brewed) => s.runs + Number(s.id === justBrewed);
  return setups.reduce((least, s) => (runs(s) < runs(least) ? s : least), setups[0]!).id;
}
