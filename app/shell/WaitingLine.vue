<template>
  <v-progress-linear
    indeterminate
    color="primary"
    aria-label="Under way"
  />
</template>
