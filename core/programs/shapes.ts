/**
 * Call shapes: which argument of a call is a pin, a bus, an address, a rate. By what calls are named in many libraries,
 * not by one of them: common practice, from memory. A shape is a row; adding one touches this list alone.
 */
import type { SightingKind } from './types'

export interface CallShape {
  /** The last name of the call. */
  name: RegExp
  /** Names before it, joined by points, after imported names are put in their place. */
  on?: RegExp
  /** Place of each argument → what it is; `keys` are the keys of a map, `rest` all from there on. */
  args: Partial<Record<number, SightingKind>>
  rest?: SightingKind
  keys?: Partial<Record<string, SightingKind>>
  /** Numbers here are lines of the kernel, whatever the rest counts by. */
  numbering?: 'line'
  /**
   * Which of the program's numbers say how pins are counted stands elsewhere: this is a library that counts by lines.
   */
  usual?: 'line'
  direction?: 'in' | 'out'
}

const GPIO = /(^|[./_-])(\w*gpio\w*|io|pins?|board|pi|chip|lines?|h|handle)$/i

export const CALL_SHAPES: readonly CallShape[] = [
  // One module for all pins.
  { name: /^(setup|set_?mode|set_?dir(ection)?|open|mode)$/i, on: /(^|[./_-])(\w*gpio\w*|io|pi)$/i,
    args: { 0: 'pin' } },
  { name: /^(output|write|set|toggle|set_?value|high|low|setValue|writeSync)$/i,
    on: /(^|[./_-])(\w*gpio\w*|io|pi|pins)$/i, args: { 0: 'pin' }, direction: 'out' },
  { name: /^(input|read|get|get_?value|poll)$/i, on: /(^|[./_-])(\w*gpio\w*|io|pi|pins)$/i, args: { 0: 'pin' },
    direction: 'in' },
  { name: /^(add_event_detect|remove_event_detect|add_event_callback|wait_for_edge|event_detected|gpio_function|callback|wait_for)$/, on: GPIO, args: { 0: 'pin' }, direction: 'in' },
  { name: /^(PWM|SoftPWM|HardwarePWM)$/, on: GPIO, args: { 0: 'pin' }, direction: 'out' },
  { name: /^(set_PWM_\w+|set_servo_pulsewidth|hardware_PWM|set_pull_up_down|set_glitch_filter|set_noise_filter|gpio_trigger|set_watchdog)$/, args: { 0: 'pin' }, usual: 'line' },
  { name: /^((gpio_)?(set|make|claim|request)_?(as_?)?(output|input)|config(ure)?_?(output|input|pin|gpio)|set_?pin_?mode)$/i, args: { 0: 'pin' } },
  // Functions named by pin.
  { on: /^$|gpio|wiring|^pi$|lib|^(five|board|hw|io)$/i,
    name: /^(pinMode|digitalWrite|digitalRead|softPwmCreate|softPwmWrite|softToneCreate|softToneWrite|softServoSetup|pwmWrite|pullUpDnControl|attachInterrupt|detachInterrupt|\w*ISR|tone|noTone|pulseIn)$/, args: { 0: 'pin' } },
  { name: /^(gpio|rpio|bcm\w*_gpio)_?(set_?mode|write|read|fsel|set|clr|clear|set_?pud|pwm|servo|set_?pull\w*|set_?(alert|isr)_?func\w*|init|set_?dir(ection)?|set_?function|put|get|export|unexport|lev|hardware_?pwm|trigger|set_?watchdog|output|input|request|direction_(in|out)put)$/i, args: { 0: 'pin' }, usual: 'line' },
  { name: /^gpio_claim_output$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^gpio_(claim_(input|alert)|read|write|set_debounce|free)$/, on: /^(lg\w*|sbc)$/i, args: { 1: 'pin' },
    numbering: 'line' },
  { name: /^lgGpio(ClaimInput|ClaimOutput)$/, args: { 2: 'pin' }, numbering: 'line' },
  { name: /^lgGpioClaimAlert$/, args: { 3: 'pin' }, numbering: 'line' },
  { name: /^lgGpio(Read|Write|SetDebounce|Free)$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^lgTx(Pwm|Servo|Pulse)$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^tx_(pwm|servo|pulse)$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^attach$/, on: /servo|^s\d?$|motor|arm|flap/i, args: { 0: 'pin' }, direction: 'out' },
  { name: /^(analogWrite|analogRead|ledcAttach(Pin)?|shiftOut)$/, args: { 0: 'pin' } },
  { name: /^SoftwareSerial$/, args: { 0: 'pin', 1: 'pin' } },
  { name: /^OneWire$/, args: { 0: 'pin' } },
  { name: /^begin$/, on: /serial|uart|modem|gps|^link$/i, args: { 0: 'baud', 2: 'pin', 3: 'pin' } },
  { name: /^begin$/, on: /^Wire\d?$/, args: { 0: 'pin', 1: 'pin' } },
  // Lines of the kernel.
  { name: /^gpiod_chip_(get|request|find)_line(_info)?$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^gpiod_chip_get_lines$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^gpiod_ctxless_(set|get|event)\w*$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^gpiod_line_config_add_line_settings$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^gpiod_line_request_(set|get)_value$/, args: { 1: 'pin' }, numbering: 'line' },
  { name: /^(get_lines?|get_line_info|getLines?|requestLines?)$/, args: { 0: 'pin' }, numbering: 'line' },
  { name: /^add_line_settings$/, args: { 0: 'pin' }, numbering: 'line' },
  { name: /^(set_value|get_value|set_values)$/, on: /(request|req|lines?)$/i, args: { 0: 'pin' }, keys: { 0: 'pin' },
    numbering: 'line' },
  { name: /^request_lines$/, args: {}, keys: { config: 'pin' }, numbering: 'line' },
  { name: /^(new_?line|[lL]ine|LineOffset|offset)$/, on: /gpiod|chip/i, args: { 0: 'pin' }, numbering: 'line' },
  // Things that are made of a pin.
  { name: /^(PWM)?(LED|Led|Lamp|Light)$|^(PWMLED|PWMOutputDevice|DigitalOutputDevice|OutputDevice|Buzzer|TonalBuzzer|Servo|AngularServo|Relay|Fan|Pump|Valve|Solenoid|Lock|Siren|Horn|Stepper|Heater)$/, args: { 0: 'pin' }, usual: 'line', direction: 'out' },
  { name: /^(Button|Switch|Key|InputDevice|DigitalInputDevice|SmoothedInputDevice|MotionSensor|LineSensor|LightSensor|Reed|Contact|Pir|PIR|Tacho|DHT\w*|PulseIn|Counter)$/, args: { 0: 'pin' }, usual: 'line', direction: 'in' },
  { name: /^(RGBLED|LEDBoard|LEDBarGraph|TrafficLights|ButtonBoard|PhaseEnableMotor|Motor|StepperMotor|Robot|RotaryEncoder|Encoder|DistanceSensor|Matrix|Keypad)$/, args: {}, rest: 'pin', usual: 'line' },
  { name: /^(DigitalInOut|PWMOut|NeoPixel|Neopixel|PixelLine|AnalogOut|PulseOut)$/, args: { 0: 'pin' }, usual: 'line' },
  { name: /^(PixelStrip|NeoPixelStrip)$/, args: { 1: 'pin' }, usual: 'line', direction: 'out' },
  { name: /^(Gpio|GPIO|Pin|Line|DigitalPin|OutputPin|InputPin|OutputLine|InputLine|GpioPin|LineOut|LineIn)$/,
    args: { 0: 'pin' }, usual: 'line' },
  // I²C.
  { name: /^SMBus$/, args: { 0: 'i2c-bus' }, keys: { bus: 'i2c-bus' } },
  { name: /^(openSync|openPromisified|open)$/, on: /i2c/i, args: { 0: 'i2c-bus' } },
  { name: /^(i2cOpen|i2c_open)$/, args: { 0: 'i2c-bus', 1: 'address' } },
  { name: /^lgI2cOpen$/, args: { 0: 'i2c-bus', 1: 'address' } },
  { name: /^(read|write)_(byte|word|block|i2c_block|i2c)(_data)?$|^write_quick$|^process_call$/,
    args: { 0: 'address' } },
  { name: /^(i2c)?(read|write|Read|Write)(Byte|Word|I2cBlock|Block)?(Sync)?$/, on: /i2c|bus/i, args: { 0: 'address' } },
  { name: /^(i2cRead|i2cWrite|readByte|writeByte|readI2cBlock|writeI2cBlock|receiveByte|sendByte)(Sync)?$/,
    args: { 0: 'address' } },
  { name: /^(writeto|readfrom|writeto_then_readfrom|readfrom_into|writeto_mem|readfrom_mem|readfrom_mem_into|beginTransmission|requestFrom|try_lock_device)$/, args: { 0: 'address' } },
  { name: /^(read|write)$/, on: /i2c_?msg$/i, args: { 0: 'address' } },
  { name: /I2CSetup$/, args: { 0: 'address' } },
  { name: /^I2CDevice$|^I2cDevice$/, args: { 1: 'address' } },
  { name: /^(start|begin|init|open)_?i2c(_?bus)?$/i, args: { 0: 'i2c-bus' } },
  { name: /^i2c$/i, args: { 0: 'i2c-bus' },
    keys: { port: 'i2c-bus', bus: 'i2c-bus', address: 'address', freq: 'clock', frequency: 'clock' } },
  // SPI.
  { name: /^SpiDev$|^SPI$/, args: { 0: 'spi-bus', 1: 'spi-select' },
    keys: { freq: 'clock', frequency: 'clock', baudrate: 'clock' } },
  { name: /^(open|openSync)$/, on: /spi/i, args: { 0: 'spi-bus', 1: 'spi-select' } },
  { name: /^(spiOpen|spi_open)$/, args: { 0: 'spi-select', 1: 'clock' } },
  { name: /^lgSpiOpen$/, args: { 0: 'spi-bus', 1: 'spi-select', 2: 'clock' } },
  { name: /SPISetup(Mode)?$/, args: { 0: 'spi-select', 1: 'clock' } },
  { name: /^spi$/i, args: {}, keys: { port: 'spi-bus', bus: 'spi-bus', device: 'spi-select', gpio_DC: 'pin',
    gpio_RST: 'pin', bus_speed_hz: 'clock' } },
  { name: /^SPISettings$/, args: { 0: 'clock' } },
  { name: /^setClock$/, on: /^Wire\d?$/, args: { 0: 'clock' } },
  { name: /^(Soft|Hard)(I2C|SPI)$/, args: {}, keys: { freq: 'clock', frequency: 'clock', baudrate: 'clock' } },
  // Serial.
  { name: /^(Serial|SerialPort|serialOpen|open_serial|serial_open|serOpen)$/, args: { 1: 'baud' },
    keys: { baudrate: 'baud', baudRate: 'baud' } },
  { name: /^cfset(i|o)?speed$/, args: { 1: 'baud' } },
  // What a program is started with.
  { name: /^(add_argument|option|add_option)$/, args: {}, keys: {} },
]

/** Calls that only say something: what stands in them is shown, not used. */
export const SAYS = /^(print|println|printf|fprintf|sprintf|snprintf|puts|log|info|debug|warn|warning|error|critical|echo|display|text|draw_text|format|perror)$/

/** Paths that name a device. */
export const DEVICE = /^\/dev\/(tty(AMA|S|USB|ACM)\d+|serial\d|i2c-\d+|spidev\d+\.\d+|gpiochip\d+|lirc\d+|pps\d+|rtc\d*|fb\d+|video\d+|hidraw\d+|serial\/by-\w+\/\S+)$/
