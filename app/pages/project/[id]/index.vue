<script setup lang="ts">
const route = useRoute()
await navigateTo(`/project/${String(route.params.id)}/board`, { replace: true })
</script>

<template>
  <div />
</template>
