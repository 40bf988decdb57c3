/**
 * What runs on a microcontroller at the other end of a serial link: a count each second, and an answer to each line.
 */
import type { ResolvedPart } from '../facts/types'
import type { Access } from './access'
import type { ProgramText } from './types'
import { spoken } from './words'

type Serial = Extract<Access, { by: 'serial' }>

export const isController = ({ part }: Pick<ResolvedPart, 'part'>): boolean => /^controller-/.test(part.id)

/**
 * C++ as the usual environments for such boards take it: `setup` once, `loop` for ever, the port by the name `Serial`.
 */
export const controllerCpp = (owner: ResolvedPart, { baud, isUsb }: Serial): ProgramText => ({
  aim: 'link', arguments: '', text: `// ${spoken(owner.name)}: counts each second and answers each line that comes.
// ${isUsb ? 'By its USB plug.' : 'TX of this board goes to RX of the other one, and RX to TX; ground to ground.'} ${baud}, 8N1.

const unsigned long RATE = ${baud};
unsigned long next = 0;
unsigned long count = 0;
char line[65];
int length = 0;

void setup() {
  Serial.begin(RATE);
}

void loop() {
  if (millis() >= next) {
    next += 1000;
    count += 1;
    Serial.print("count ");
    Serial.println(count);
  }
  while (Serial.available() > 0) {
    char sign = Serial.read();
    if (sign == '\\r') continue;
    if (sign != '\\n') {
      if (length < 64) line[length++] = sign;
      continue;
    }
    line[length] = 0;
    if (length > 0) {
      Serial.print("heard ");
      Serial.println(line);
    }
    length = 0;
  }
}
`,
})

export const controllerPython = (owner: ResolvedPart, { baud, isUsb }: Serial): ProgramText => ({
  aim: 'link', arguments: '', text: `# ${spoken(owner.name)}: counts each second and answers each line that comes.
# ${isUsb ? 'By its USB plug.' : 'TX of this board goes to RX of the other one, and RX to TX; ground to ground.'}
# On the microcontroller; port 1 and its usual pins: where yours are others, name them here.
from machine import UART
import time

port = UART(1, ${baud}, bits=8, parity=None, stop=1)
count = 0
line = b''
due = time.ticks_ms()

while True:
    if time.ticks_diff(time.ticks_ms(), due) >= 0:
        due = time.ticks_add(due, 1000)
        count += 1
        port.write(b'count %d\\r\\n' % count)
    if port.any():
        line += port.read()
        while b'\\n' in line:
            first, line = line.split(b'\\n', 1)
            first = first.strip()
            if first:
                port.write(b'heard ' + first + b'\\r\\n')
        line = line[-64:]
    time.sleep_ms(5)
`,
})
