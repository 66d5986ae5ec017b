// A new password, after which the session is another.
import { useMutation, useQueryClient } from '@tanstack/vue-query';
import { answer, api } from '@/api/client';
import { keys } from '@/api/keys';
import { useSession } from '@/session/session';

export function useChangePassword() {
  const client = useQueryClient();
  const session = useSession();
  return useMutation({
    mutationFn: (body: { old: string; new: string }) => answer(api.PUT('/me/password', { body })),
    onSuccess: () => Promise.all([session.check(), client.invalidateQueries({ queryKey: keys.signIns })]),
  });
}
