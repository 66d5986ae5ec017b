// Parts of a view that nobody needs in its first second: their scripts come once the
// page is painted, or when they are asked for before that.
import {
  defineAsyncComponent,
  h,
  onErrorCaptured,
  shallowRef,
  watch,
  type Component,
  type FunctionalComponent,
} from 'vue';
import { painted } from '@/shared/idle';
import { textsOfViews } from '@/words';

/** The script of a part is not to be had now. */
class PartMissing extends Error {}

/** A part that comes later, with the texts of the views. Once it is here it is shown at once. */
export function later<T extends Component>(load: () => Promise<{ default: T }>) {
  const here = shallowRef<T>();
  async function fetch() {
    const [part] = await Promise.all([load(), textsOfViews()]).catch(() => []);
    here.value = part?.default; // nothing, too, where vite:preloadError was heard
  }
  const stop = watch(painted, () => (stop(), fetch()));
  const coming = defineAsyncComponent(async () => {
    await fetch();
    if (!here.value) throw new PartMissing();
    return here.value;
  });
  const part: FunctionalComponent = (_, { attrs, slots }) => h(here.value ?? coming, attrs, slots);
  part.inheritAttrs = false; // they are handed on already
  return Object.assign(part as unknown as T, { fetch });
}

/** What a view does where a part below it is missing; that it is missing is said by the page. */
export function whenMissing(then: () => void) {
  onErrorCaptured((e) => {
    if (!(e instanceof PartMissing)) return;
    then();
    return false;
  });
}
