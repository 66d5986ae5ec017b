// What the core doubts is asked once before it is written: given again as it stands, it is.
import { ref } from 'vue';
import type { Bench, Part } from '@/notebook/useBench';

export function useDoubt(bench: () => Bench) {
  const doubt = ref('');
  let asked = '';
  /** Writes it, or asks; undefined where it was written, else why it was not. '' stands for a question. */
  async function write(parts: Part[], what: unknown): Promise<string | undefined> {
    const now = JSON.stringify(what);
    if (now !== asked) {
      doubt.value = await bench().doubt(parts);
      if (doubt.value) {
        asked = now;
        return '';
      }
    }
    const why = await bench().write(parts);
    if (why === undefined) forget();
    return why;
  }
  function forget() {
    doubt.value = asked = '';
  }
  return { doubt, write, forget };
}
