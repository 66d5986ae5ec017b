// What the bench may be asking for in a dialog.
import type { Schemas, Trial } from '@/api/client';
import type { Observed, Place } from '@/notebook/useBench';

export const inWords = ['note', 'batch', 'solution-made', 'aliquot', 'waste', 'left', 'water-added', 'glass'] as const;
export type InWords = (typeof inWords)[number] & ('note' | Observed);

export type Asking =
  | { what: 'correct'; place: Place }
  | { what: 'aside' | 'restore' | 'withdraw'; trial: Trial }
  | { what: 'weigh'; standard?: boolean }
  | { what: 'measured'; value: Schemas['MeasuredValue'] }
  | { what: 'point' | 'strike'; point: Schemas['RunPoint']; unit: string }
  | {
      what: InWords | 'prepare' | 'leak' | 'cautions' | 'partner' | 'keys' | 'readings' | 'calibrate' | 'points';
    };
