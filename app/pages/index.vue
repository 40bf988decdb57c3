<template><v-app><v-btn color="primary">Hello</v-btn></v-app></template>
