import { nextTick } from 'vue';
import { createRouter, createWebHistory } from 'vue-router';
import SignIn from '@/features/signin/SignIn.vue';
import Shelf from '@/features/shelf/Shelf.vue';
import Bench from '@/features/bench/Bench.vue';
import { useSession } from '@/session/session';
import { announce } from '@/shared/announce';
import { say, textsOfViews, type Key } from '@/words';

declare module 'vue-router' {
  interface RouteMeta {
    /** For nobody in particular. */
    open?: boolean;
    /** What the page is called. */
    title: Key;
    /** Which station of a practical it is. */
    station?: string;
  }
}

/** A view that comes when it is first gone to, with its texts. */
const view =
  <T>(load: () => Promise<T>) =>
  async () =>
    (await Promise.all([load(), textsOfViews()]))[0];

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/home' },
    { path: '/sign-in', name: 'sign-in', component: SignIn, meta: { open: true, title: 'title.sign-in' } },
    { path: '/home', name: 'home', component: Shelf, meta: { title: 'app.home' } },
    { path: '/shelf', redirect: '/home' },
    {
      path: '/account',
      name: 'account',
      component: view(() => import('@/features/account/Account.vue')),
      meta: { title: 'account.title' },
    },
    {
      path: '/setup/:token',
      name: 'setup',
      component: view(() => import('@/features/joining/Setup.vue')),
      props: true,
      meta: { open: true, title: 'setup.title' },
    },
    {
      path: '/join/:code?',
      name: 'join',
      component: view(() => import('@/features/joining/Join.vue')),
      props: true,
      meta: { open: true, title: 'join.title' },
    },
    {
      path: '/classes',
      name: 'classes',
      component: view(() => import('@/features/classes/Classes.vue')),
      meta: { title: 'classes.title' },
    },
    {
      path: '/classes/:classId',
      name: 'class',
      component: view(() => import('@/features/classes/ClassPage.vue')),
      props: true,
      meta: { title: 'title.class' },
    },
    {
      path: '/library/:classId?',
      name: 'library',
      component: view(() => import('@/features/library/Library.vue')),
      props: true,
      meta: { title: 'library.title' },
    },
    {
      path: '/people',
      name: 'people',
      component: view(() => import('@/features/people/People.vue')),
      meta: { title: 'people.title' },
    },
    {
      path: '/gallery',
      name: 'gallery',
      component: view(() => import('@/features/gallery/Gallery.vue')),
      meta: { title: 'title.gallery' },
    },
    {
      path: '/catalogue',
      name: 'catalogue',
      component: view(() => import('@/features/catalogue/Catalogue.vue')),
      meta: { title: 'app.catalogue' },
    },
    {
      path: '/classes/:classId/plan',
      name: 'new-plan',
      component: view(() => import('@/features/plan/Plan.vue')),
      props: true,
      meta: { title: 'title.plan' },
    },
    {
      path: '/classes/:classId/practicals/:practical',
      component: view(() => import('@/features/practical/PracticalFrame.vue')),
      props: true,
      children: [
        { path: '', redirect: (to) => ({ name: 'setting', params: to.params }) },
        {
          path: 'plan',
          name: 'plan',
          component: view(() => import('@/features/plan/Plan.vue')),
          props: true,
          meta: { title: 'title.plan', station: 'plan' },
        },
        {
          path: 'set',
          name: 'setting',
          component: view(() => import('@/features/setting/Setting.vue')),
          props: true,
          meta: { title: 'title.setting', station: 'set' },
        },
        {
          path: 'prepare',
          name: 'prepare',
          component: view(() => import('@/features/plan/Prepare.vue')),
          props: true,
          meta: { title: 'title.prepare', station: 'prepare' },
        },
        {
          path: 'lesson',
          name: 'board',
          component: view(() => import('@/features/board/Board.vue')),
          props: true,
          meta: { title: 'title.board', station: 'lesson' },
        },
        {
          path: 'answers',
          name: 'answers',
          component: view(() => import('@/features/board/ClassPlot.vue')),
          props: true,
          meta: { title: 'title.answers', station: 'answers' },
        },
        {
          path: 'marking',
          name: 'marking',
          component: view(() => import('@/features/marking/Marking.vue')),
          props: true,
          meta: { title: 'title.marking', station: 'marking' },
        },
        {
          path: 'marking/:notebook',
          name: 'mark',
          component: view(() => import('@/features/marking/Mark.vue')),
          props: true,
          meta: { title: 'title.marking' },
        },
        {
          path: 'results',
          name: 'results',
          component: view(() => import('@/features/marking/Results.vue')),
          props: true,
          meta: { title: 'title.results', station: 'results' },
        },
      ],
    },
    // Addresses of before.
    {
      path: '/classes/:classId/plan/:practical',
      redirect: (to) => ({ name: 'plan', params: to.params }),
    },
    {
      path: '/classes/:classId/practicals/:practical/board',
      redirect: (to) => ({ name: 'board', params: to.params }),
    },
    {
      path: '/classes/:classId/marks',
      name: 'term',
      component: view(() => import('@/features/marking/Term.vue')),
      props: true,
      meta: { title: 'term.title' },
    },
    {
      path: '/notebooks/:id/marks',
      name: 'marks',
      component: view(() => import('@/features/marking/Marks.vue')),
      props: true,
      meta: { title: 'app.marks' },
    },
    { path: '/notebooks/:id', name: 'bench', component: Bench, props: true, meta: { title: 'app.bench' } },
    {
      path: '/notebooks/:id/work',
      name: 'work',
      component: view(() => import('@/features/work/Work.vue')),
      props: true,
      meta: { title: 'app.work' },
    },
    {
      path: '/notebooks/:id/result',
      name: 'result',
      component: view(() => import('@/features/result/Result.vue')),
      props: true,
      meta: { title: 'app.result' },
    },
    {
      path: '/notebooks/:id/report',
      name: 'report',
      component: view(() => import('@/features/report/Report.vue')),
      props: true,
      meta: { title: 'app.report' },
    },
    {
      path: '/notebooks/:id/journal',
      name: 'journal',
      component: view(() => import('@/features/journal/Journal.vue')),
      props: true,
      meta: { title: 'app.journal' },
    },
    {
      path: '/:rest(.*)',
      name: 'nowhere',
      component: view(() => import('@/shared/Nowhere.vue')),
      meta: { title: 'title.nowhere' },
    },
  ],
});

// Nobody signed in: to the door, and back here afterwards. So it is also for the
// browser's Back after signing out.
router.beforeEach((to) => {
  const { person } = useSession();
  if (person === null && !to.meta.open) return { name: 'sign-in', query: { to: to.fullPath } };
  if (person?.mustChange && to.name !== 'account' && !to.meta.open) return { name: 'account' };
  return true;
});

// Another view: its title, said to those who do not see it, and the focus there.
router.afterEach((to, from, failure) => {
  if (failure || (to.name === from.name && to.path === from.path)) return;
  const title = say(to.meta.title);
  document.title = `${title} · Exact Flask`;
  if (!from.name) return;
  announce(title);
  void nextTick(() => {
    if (document.activeElement?.id !== 'reading') document.getElementById('content')?.focus({ preventScroll: true });
  });
});
