import { useEffect, useState } from 'react';
import { tellIn, type Units } from './units';

/** A key that changes when figures are to be told in other units: whatever stands under it is drawn anew. */
export function useUnits(units: Units | undefined): number {
  const [drawn, setDrawn] = useState(0);
  useEffect(() => {
    if (units && tellIn(units)) setDrawn((times) => times + 1);
  }, [units]);
  return drawn;
}
