/** The checks of catalogue files, from their declarations in `shapes/`. */
import { joiOf } from '../shape/joi'
import { boardShape } from './shapes/board'
import { partShape } from './shapes/part'
import { powerItem, supplyUnit } from './shapes/power'
import { starter } from './shapes/starter'

export const boardSchema = joiOf(boardShape)
export const partSchema = joiOf(partShape)
export const supplySchema = joiOf(supplyUnit)
export const powerItemSchema = joiOf(powerItem)
export const starterSchema = joiOf(starter)
