#!/usr/bin/env node
/**
 * The command as its sources: `tsx cli/index.ts check PLAN`. What people call is `bin/voltaris`, made from the same.
 */
import { run } from './main'

run(process.argv.slice(2))
