<template>
  <div class="panel mx-auto mt-8 max-w-xl p-6">
    <h1 class="mb-4 text-xl font-bold">{{ $t('common.nowhere') }}</h1>
    <RouterLink :to="{ name: 'shelf' }" class="button">{{ $t('common.toShelf') }}</RouterLink>
  </div>
</template>
