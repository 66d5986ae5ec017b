// Parts of a view that nobody needs in its first second: their scripts come once the
// page is painted, or when they are asked for before that.
import { defineAsyncComponent, onErrorCaptured, watch, type Component } from 'vue';
import { painted } from '@/shared/idle';
import { textsOfViews } from '@/words';

/** The script of a part is not to be had now. */
class PartMissing extends Error {}

/** A part that comes later. */
export function later<T extends Component>(load: () => Promise<{ default: T }>) {
  const whole = () =>
    Promise.all([load(), textsOfViews()]).then(
      ([part]) => part as typeof part | undefined, // nothing, where vite:preloadError was heard
      () => undefined,
    );
  const stop = watch(painted, () => (stop(), whole()));
  const part = defineAsyncComponent(async () => {
    const got = await whole();
    if (!got) throw new PartMissing();
    return got.default;
  });
  return Object.assign(part, {
    /** Fetches it before that. */
    fetch: whole,
  });
}

/** What a view does where a part below it is missing; that it is missing is said by the page. */
export function whenMissing(then: () => void) {
  onErrorCaptured((e) => {
    if (!(e instanceof PartMissing)) return;
    then();
    return false;
  });
}
