/** Help beside each stage: what it is for, how one goes about it, and words that come up. */
import type { StageId } from '~~/core/plan/types'

export interface Help {
  for: string
  steps: readonly string[]
  words: readonly { word: string, means: string }[]
}

export const HELP: Readonly<Record<StageId, Help>> = {
  board: {
    for: 'Say what lies on the table: the board, what feeds it, and what goes with it. Everything that follows is '
      + 'judged on that.',
    steps: [
      'Answer what you see on the board, or press the one you know.',
      'Not sure which board to buy? Choose the parts first; then "Which board would carry this?" tries every '
      + 'one of them.',
      'Say which case, cooler, card and image it has: room, heat and boot files depend on them.',
      'Choose the supply. Those that fit come first; of the others it says what is wrong with them.',
      'Write down what it is for. Notes stay with the plan.',
    ],
    words: [
      {
        word: 'position',
        means: 'A pin of the header, counted from the square corner: odd ones in the inner row, even ones in '
          + 'the outer row.',
      },
      { word: 'line', means: 'A signal of the processor, by its number: G18 is line 18, which lies on position 12.' },
      { word: 'rail', means: 'A voltage that the board hands out: 5 V as it comes in, 3V3 from its own regulator.' },
    ],
  },
  parts: {
    for: 'Choose the parts. Pointing at one shows on the strip below what it would take.',
    steps: [
      'Search by what it does, how it connects, or the number on its chip.',
      'Lay two to five of a kind side by side with the scales: each is tried on your plan.',
      'Press + to take it into the plan; give it a name of your own, such as "Door".',
      'Set what its jumpers and switches say, and what hangs on its contacts.',
      'Not there? Make one of your own in a form, from the table in its data sheet.',
    ],
    words: [
      { word: 'bus', means: 'Wires that several parts share: I²C tells them apart by address, SPI by a '
        + 'select line each.' },
      { word: 'logic level', means: 'The voltage that means "high". The header\'s lines stand 3.3 V, and no more.' },
      { word: 'add-on board', means: 'A board that sits on the whole header and holds fixed positions of it.' },
    ],
  },
  wiring: {
    for: 'Every terminal gets its place on the header. Place the rest does it for you; what you set by hand stays.',
    steps: [
      'Press Place the rest. It says what it moved, and what could not be met together.',
      'Press a part to see its terminals; choose another place from the list, or drag it on the header.',
      'Read the findings: each says what will happen, and offers ways out.',
      'Keep a position free by pressing it and giving a reason.',
    ],
    words: [
      {
        word: 'pull-up',
        means: 'A resistor to 3V3 that holds a line high until something pulls it low. I²C needs one for each wire, '
          + 'and not too many.',
      },
      { word: 'chip select', means: 'The line by which SPI tells one part that it is meant.' },
      { word: 'fixed', means: 'Set by you: placing leaves it where it is. A small square marks it.' },
    ],
  },
  power: {
    for: 'From the source to each load: voltages and currents in every state, what gets warm, and how '
      + 'long a battery lasts.',
    steps: [
      'Choose a state above the flow: at rest, as usual, at peak.',
      'Press a node for its figures; what you measured or read on a label replaces ours.',
      'Put a fuse where a wire could carry more than it stands: as near the source as you can.',
      'Ask in Scenario, Battery and Heat what the day, the week and the summer do to it.',
    ],
    words: [
      {
        word: 'operating point',
        means: 'Voltages and currents at which everything is in balance. A supply too weak for its load has none.',
      },
      { word: 'drop', means: 'What a lead takes from the voltage: current times resistance, there and back.' },
      { word: 'brown-out', means: 'The voltage falls so low for a moment that the board starts anew.' },
    ],
  },
  boot: {
    for: 'The files that tell the kernel what is connected. They are read as they lie on your card, and your '
      + 'own lines stay.',
    steps: [
      'Other files: name the board, say what starts by itself, which address stays; the files follow, each line with '
      + 'what it does.',
      'An example from somewhere? Paste it under Example code: each pin, bus and address in it is held '
      + 'against your plan.',
      'Read your files in: boot file, command line, overlays, or all of them in a zip.',
      'See what each line does, and what is wrong with it.',
      'Write what the plan needs; the files before are kept.',
      'Rehearse the start: which overlay lands where, which driver binds to which part.',
    ],
    words: [
      { word: 'overlay', means: 'A small description of hardware that is laid over the board\'s own at the start.' },
      { word: 'device tree', means: 'The description of the hardware that the kernel starts with.' },
      { word: 'fragment', means: 'One piece of an overlay: where it goes, and what it says there.' },
    ],
  },
  build: {
    for: 'Everything that has to be done, in the order without regret: what closes something up comes after what is '
      + 'under it, power last.',
    steps: [
      'Supply unplugged. Touch something earthed.',
      'Focus mode shows one thing at a time, large enough to be read from the bench. Where you have to look '
      + 'first, it waits.',
      'It counts how long each took, and takes photos: they lie in the logbook, small, and go out with the plan.',
      'Tick what is done. The bench sheet has all of it on paper: pictures, steps, wires, labels for both ends.',
      'The pictures are to scale: what is new in the step in view, what is still to come, what has no room.',
      'Sizes are from memory where they say so: measure your thing and type it in under Sizes and places.',
      'Your own order is kept: move a step, or say what else comes before what; what that breaks is said at the step.',
      'Before the supply goes in: no stop may be open.',
    ],
    words: [
      { word: 'no way back', means: 'What this step does stays done: solder, a card that was written over.' },
      { word: 'return', means: 'The way back of the current: ground. Every circuit needs one, and a common one.' },
      { word: 'splice', means: 'Several wires that meet: on a rail, in a connector, never on one pin.' },
    ],
  },
  bringup: {
    for: 'It is wired: now see that everything is there, one thing after the other.',
    steps: [
      'Go down the run sheet: before power first, then lamps, volts, the start, each part. What a meter shows is typed.',
      'Say what you see in your own words ("the screen stays white"): it is taken for what the sheet knows, or asked.',
      'Paste what commands print, several at once: they sort themselves. The check script asks all of them '
      + 'on the board.',
      'Something odd? What would explain it stands beside the sheet, with the test that tells most for its minutes.',
      'Readings over time are pasted under Curves: a load test beside the predicted one gives figures to go by.',
      'First programs for each part, with this plan\'s lines and addresses in them, read it, watch it or move it.',
      'The simulated board shows beforehand what a well-made one prints and measures, and what it does with a fault.',
      'The trainer hides a fault in this plan and counts how long you take; its lessons go through the usual mistakes '
      + 'one after the other.',
    ],
    words: [
      { word: 'address', means: 'The number to which a part on I²C answers: from 0x08 to 0x77.' },
      { word: 'run sheet',
        means: 'Everything that can be looked at, in an order in which nothing is fed before it was measured.' },
      { word: 'device node', means: 'The name in /dev under which the kernel offers a part.' },
    ],
  },
}
