// Whose device this is just now: all that is kept for a person is kept under their
// id. The session sets it, and nothing else does.
export const owner = { id: '' };

/** Where things of a kind are kept for this person. */
export const mine = (kind: 'kept' | 'draft' | 'begun' | 'outbox' | 'setting') => `exactflask.${kind}.${owner.id}.`;
