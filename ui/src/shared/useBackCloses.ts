// The phone's Back closes what lies on the page, and leaves the page where it is.
// Whatever lies open has one place in the browser's history.
import { onMounted, onUnmounted } from 'vue';
import { useRouter } from 'vue-router';

const open: (() => void)[] = []; // how each is closed, the uppermost last
let own = 0; // how often it went back by itself, which is no wish of the person's

window.addEventListener('popstate', () => {
  if (own > 0) own--;
  else open.pop()?.();
});

export function useBackCloses(close: () => void) {
  const router = useRouter();
  let left = false; // for another page: its place in the history is behind that
  const off = router.beforeEach((to, from) => {
    if (to.fullPath !== from.fullPath) left = true;
  });
  onMounted(() => {
    open.push(close);
    history.pushState({ ...history.state }, '');
  });
  onUnmounted(() => {
    off();
    const at = open.indexOf(close);
    if (at < 0) return; // closed by Back
    open.splice(at, 1);
    if (left) return;
    own++;
    history.back();
  });
}
