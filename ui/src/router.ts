import { createRouter, createWebHistory } from 'vue-router';
import SignIn from '@/features/signin/SignIn.vue';
import Shelf from '@/features/shelf/Shelf.vue';
import Bench from '@/features/bench/Bench.vue';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/shelf' },
    { path: '/sign-in', name: 'sign-in', component: SignIn, meta: { open: true } },
    { path: '/shelf', name: 'shelf', component: Shelf },
    { path: '/account', name: 'account', component: () => import('@/features/account/Account.vue') },
    { path: '/catalogue', name: 'catalogue', component: () => import('@/features/catalogue/Catalogue.vue') },
    {
      path: '/classes/:classId/plan/:practical?',
      name: 'plan',
      component: () => import('@/features/plan/Plan.vue'),
      props: true,
    },
    { path: '/notebooks/:id', name: 'bench', component: Bench, props: true },
    { path: '/notebooks/:id/work', name: 'work', component: () => import('@/features/work/Work.vue'), props: true },
    {
      path: '/notebooks/:id/result',
      name: 'result',
      component: () => import('@/features/result/Result.vue'),
      props: true,
    },
    {
      path: '/notebooks/:id/report',
      name: 'report',
      component: () => import('@/features/report/Report.vue'),
      props: true,
    },
    {
      path: '/notebooks/:id/journal',
      name: 'journal',
      component: () => import('@/features/journal/Journal.vue'),
      props: true,
    },
    { path: '/:rest(.*)', name: 'nowhere', component: () => import('@/shared/Nowhere.vue') },
  ],
});
