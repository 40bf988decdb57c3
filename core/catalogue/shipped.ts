// Written by scripts/catalogue-index.mjs; do not edit.
import boards_forty_classic from './boards/forty-classic.json'
import boards_forty_usb_c from './boards/forty-usb-c.json'
import parts_analog_4_i2c from './parts/analog-4-i2c.json'
import parts_audio_add_on from './parts/audio-add-on.json'
import parts_buttons_4 from './parts/buttons-4.json'
import parts_card_reader_spi from './parts/card-reader-spi.json'
import parts_clock_cell_i2c from './parts/clock-cell-i2c.json'
import parts_controller_5v_serial from './parts/controller-5v-serial.json'
import parts_distance_echo_5v from './parts/distance-echo-5v.json'
import parts_expander_16_i2c from './parts/expander-16-i2c.json'
import parts_fan_4wire_pwm from './parts/fan-4wire-pwm.json'
import parts_fan_5v from './parts/fan-5v.json'
import parts_hub_8_i2c from './parts/hub-8-i2c.json'
import parts_label_printer_serial from './parts/label-printer-serial.json'
import parts_lever_sensors_8 from './parts/lever-sensors-8.json'
import parts_light_i2c from './parts/light-i2c.json'
import parts_modem_serial from './parts/modem-serial.json'
import parts_motion_i2c from './parts/motion-i2c.json'
import parts_oled_i2c from './parts/oled-i2c.json'
import parts_panel_video_7 from './parts/panel-video-7.json'
import parts_positioning_serial from './parts/positioning-serial.json'
import parts_pressure_humidity_i2c from './parts/pressure-humidity-i2c.json'
import parts_probe_onewire from './parts/probe-onewire.json'
import parts_relay_bare from './parts/relay-bare.json'
import parts_relay_board_4 from './parts/relay-board-4.json'
import parts_scale_two_wire from './parts/scale-two-wire.json'
import parts_screen_spi_24 from './parts/screen-spi-24.json'
import parts_servo_small from './parts/servo-small.json'
import parts_strip_addressable from './parts/strip-addressable.json'
import supplies_adapter_5v_2a4 from './supplies/adapter-5v-2a4.json'
import supplies_adapter_5v_3a from './supplies/adapter-5v-3a.json'
import supplies_adapter_5v_5a from './supplies/adapter-5v-5a.json'
import supplies_din_rail_5v_5a from './supplies/din-rail-5v-5a.json'
import supplies_internal_usb_500 from './supplies/internal-usb-500.json'
import supplies_power_bank_12ah from './supplies/power-bank-12ah.json'
import supplies_solar_battery_5v from './supplies/solar-battery-5v.json'

export const boards: unknown[] = [
  boards_forty_classic,
  boards_forty_usb_c,
]

export const parts: unknown[] = [
  parts_analog_4_i2c,
  parts_audio_add_on,
  parts_buttons_4,
  parts_card_reader_spi,
  parts_clock_cell_i2c,
  parts_controller_5v_serial,
  parts_distance_echo_5v,
  parts_expander_16_i2c,
  parts_fan_4wire_pwm,
  parts_fan_5v,
  parts_hub_8_i2c,
  parts_label_printer_serial,
  parts_lever_sensors_8,
  parts_light_i2c,
  parts_modem_serial,
  parts_motion_i2c,
  parts_oled_i2c,
  parts_panel_video_7,
  parts_positioning_serial,
  parts_pressure_humidity_i2c,
  parts_probe_onewire,
  parts_relay_bare,
  parts_relay_board_4,
  parts_scale_two_wire,
  parts_screen_spi_24,
  parts_servo_small,
  parts_strip_addressable,
]

export const supplies: unknown[] = [
  supplies_adapter_5v_2a4,
  supplies_adapter_5v_3a,
  supplies_adapter_5v_5a,
  supplies_din_rail_5v_5a,
  supplies_internal_usb_500,
  supplies_power_bank_12ah,
  supplies_solar_battery_5v,
]
