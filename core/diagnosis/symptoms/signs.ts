/**
 * What makers say of a thing that does not do as planned, as signs; the first that fits counts. Words: common
 * practice, no source.
 */
import { hasAny, phrasesOf } from '../../said/stems'

export type Sign
  = | 'smells' | 'hot' | 'touching' | 'swapped' | 'now and then' | 'short' | 'open' | 'counted' | 'red alone'
    | 'under-voltage' | 'restarts'
    | 'foreign' | 'garbage' | 'all answer' | 'silent bus' | 'both' | 'instead' | 'no lamp' | 'no start' | 'flickers'
    | 'no picture'
    | 'falters' | 'unlit' | 'nothing' | 'works'

/** Signs that are told of the whole sentence, its occasion with it. */
const WHOLE: ReadonlySet<Sign> = new Set<Sign>([
  'smells', 'hot', 'now and then', 'short', 'open', 'touching', 'swapped', 'red alone', 'under-voltage',
])

const RESTARTS = 'reboot|restart|reset|brownout|crash|freeze|froze|frozen'
const FUNNY = 'wrong|strange|weird|odd|random|funny|crazy|unknown'

const SIGNS: readonly [sign: Sign, phrases: ReturnType<typeof phrasesOf>][] = [
  ['smells', phrasesOf('smell|stink|smoke|burnt|burning|sizzle|scorch|melt')],
  ['hot', phrasesOf('too|very|really|burning|so|get|become|run|is|boiling|extremely hot', 'heat up', 'overheat')],
  ['touching', phrasesOf('bridge|touch|solder|join|short pins|positions', 'pins|positions touch|bridge|join|short',
    'solder|blob|strand between pins|positions')],
  ['swapped', phrasesOf('swap|exchange|interchange|reverse|crossed|mixed')],
  ['now and then', phrasesOf(
    'now and then', 'from time to time', 'sometimes|occasionally|intermittent|sporadic|randomly', 'on and off',
    'every so often',
    'drop|cut|fall|go out', 'comes and goes', 'lose|lost contact|connection|touch', 'loose',
    'bad|poor|wobbly contact|connection',
    'when|if|whenever|while touch|move|wiggle|wobble|bump|shake|bend|push|tap|press '
    + 'wire|cable|lead|it|plug|connector|them|board|case|box|table',
  )],
  ['short', phrasesOf('short', 'beep between')],
  ['open', phrasesOf('NO continuity', 'NO beep', 'wire|cable|lead broken|open|snapped|interrupted')],
  ['counted', phrasesOf('blink|flash times', 'blink|flash code|pattern', 'counted|count flash|blink',
    'long short flash|blink')],
  ['red alone', phrasesOf('only|just|solid|constant|steady red', 'red only|alone|just', 'red NO green',
    'green NO|off|out|dark', 'NO green',
    'NO activity light|lamp|led')],
  ['under-voltage', phrasesOf('undervoltage', 'red goes|went off|out', 'red blink|flicker', 'lightning',
    'low|under voltage warn|sign|message|icon', 'throttled')],
  ['restarts', phrasesOf(RESTARTS, 'start anew|again|over', 'hang|lock|die up|after|under',
    'shut|switch|turn itself off|down',
    'goes off')],
  ['foreign', phrasesOf('boot|kernel|login|console|startup message|text|prompt|output|line|log',
    'line|text|byte|character nobody|never sent', 'no one sent')],
  ['garbage', phrasesOf('garbage|gibberish|nonsense|rubbish|junk|scrambled|hieroglyphs|garbled|mangled|unreadable',
    `${FUNNY} character|sign|symbol|letter|byte|data`, 'question marks', 'NO sense|readable')],
  ['all answer', phrasesOf('all|every|each address', 'grid|table full', 'everything|everywhere answer|filled')],
  ['silent bus', phrasesOf('i2cdetect|scan|grid|bus|i2c empty|NO|dashes|blank|dead|silent',
    'NO on|in|at scan|grid|bus|i2c|i2cdetect',
    'NO i2c', 'NO address|device', 'dashes')],
  ['both', phrasesOf('two|both|several react|respond|move|change|trigger|come|switch',
    'another|other moves|reacts|changes|too|also',
    'at once')],
  ['instead', phrasesOf('wrong|other|different button|key|relay|channel|line|lamp|one|sensor', 'instead')],
  ['no lamp', phrasesOf('NO lamp|light|led|power|life', 'completely|totally|entirely|stone dead',
    'NO turn|power|switch on|up',
    'lamp|light|led off|dark')],
  ['no start', phrasesOf('NO boot|start|bootable', 'NO ssh|login|log|network|ping|reach|reachable|connect|wifi',
    'NO come up',
    'hang|stuck|stop at|during|on boot|start|startup|rainbow|logo', 'rainbow', 'kernel panic', 'boot loop')],
  ['flickers', phrasesOf('flicker|glitch|sparkle', `${FUNNY}|changing colour|color`)],
  ['no picture', phrasesOf('white|blank|black', 'NO picture|image|text|content', 'backlight|lit only|NO|empty',
    'backlight on',
    'NO drawn|draw|display')],
  ['falters', phrasesOf('stutter|jitter|jittery|twitch|falter|weak|slowly|hum|dim|chatter|struggle|jerk|shake|unsteady|noisy|crackle',
    'heavy|full load', 'sag|sagging')],
  ['unlit', phrasesOf('dark|unlit', 'NO backlight|light|lit|glow', 'backlight|light off|out',
    'is|stays|remains|turned off')],
  ['nothing', phrasesOf('NO', 'dead|silent|missing|quiet|broken|unresponsive|gone|mute|idle|invisible|absent|lacking',
    'read|show|stay|give zero')],
  ['works', phrasesOf('work|fine|ok|okay|good|well|perfect|perfectly|run|right|normal|normally|react|respond|move|spin|answer')],
]

/** Words of another time, of a wish, or of a doubt: what works so is not what was planned. */
const ELSEWHERE = phrasesOf('used|before|yesterday|earlier|previously|until|should|supposed|expected|hoped|tried|try|want',
  'all|whole time', 'wrong|too|only|always|stuck|inverted|backwards|upside|slow|late|half|itself|themselves|almost|barely|constantly')

/**
 * The sign that a sentence is, and nothing where it is none. `main` is what happens, `whole` has its occasion with it.
 */
export function signIn(main: readonly string[], whole: readonly string[]): Sign | null {
  const found = SIGNS.find(([sign, phrases]) => hasAny(phrases, WHOLE.has(sign) ? whole : main))?.[0] ?? null
  return found === 'works' && hasAny(ELSEWHERE, whole) ? null : found
}
