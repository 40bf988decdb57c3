// Written by scripts/catalogue-index.mjs; do not edit.
import boards_early_26 from './boards/early-26.json'
import boards_forty_classic from './boards/forty-classic.json'
import boards_forty_io_bridge from './boards/forty-io-bridge.json'
import boards_forty_usb_c from './boards/forty-usb-c.json'
import boards_tiny_unpopulated from './boards/tiny-unpopulated.json'
import parts_acceleration_i2c from './parts/acceleration-i2c.json'
import parts_adapter_serial_usb from './parts/adapter-serial-usb.json'
import parts_adapter_usb_micro from './parts/adapter-usb-micro.json'
import parts_adapter_video_micro from './parts/adapter-video-micro.json'
import parts_adapter_video_mini from './parts/adapter-video-mini.json'
import parts_air_quality_i2c from './parts/air-quality-i2c.json'
import parts_amplifier_i2s from './parts/amplifier-i2s.json'
import parts_analog_4_i2c from './parts/analog-4-i2c.json'
import parts_analog_8_spi from './parts/analog-8-spi.json'
import parts_analog_out_i2c from './parts/analog-out-i2c.json'
import parts_audio_add_on from './parts/audio-add-on.json'
import parts_audio_dac_add_on from './parts/audio-dac-add-on.json'
import parts_breadboard_400 from './parts/breadboard-400.json'
import parts_bus_vehicle_spi from './parts/bus-vehicle-spi.json'
import parts_button_1 from './parts/button-1.json'
import parts_buttons_4 from './parts/buttons-4.json'
import parts_buzzer_active from './parts/buzzer-active.json'
import parts_buzzer_tone from './parts/buzzer-tone.json'
import parts_carbon_dioxide_i2c from './parts/carbon-dioxide-i2c.json'
import parts_card_memory_128 from './parts/card-memory-128.json'
import parts_card_memory_16 from './parts/card-memory-16.json'
import parts_card_memory_32_plain from './parts/card-memory-32-plain.json'
import parts_card_memory_32 from './parts/card-memory-32.json'
import parts_card_memory_64 from './parts/card-memory-64.json'
import parts_card_reader_spi from './parts/card-reader-spi.json'
import parts_case_closed from './parts/case-closed.json'
import parts_case_cooler_body from './parts/case-cooler-body.json'
import parts_case_early from './parts/case-early.json'
import parts_case_tall from './parts/case-tall.json'
import parts_case_tiny from './parts/case-tiny.json'
import parts_case_vented from './parts/case-vented.json'
import parts_clock_add_on from './parts/clock-add-on.json'
import parts_clock_cell_i2c from './parts/clock-cell-i2c.json'
import parts_clock_plain_i2c from './parts/clock-plain-i2c.json'
import parts_colour_i2c from './parts/colour-i2c.json'
import parts_controller_3v3_serial from './parts/controller-3v3-serial.json'
import parts_controller_5v_serial from './parts/controller-5v-serial.json'
import parts_cooler_active from './parts/cooler-active.json'
import parts_cooler_block from './parts/cooler-block.json'
import parts_cooler_fins from './parts/cooler-fins.json'
import parts_current_meter_i2c from './parts/current-meter-i2c.json'
import parts_device_usb from './parts/device-usb.json'
import parts_distance_echo_5v from './parts/distance-echo-5v.json'
import parts_distance_light_i2c from './parts/distance-light-i2c.json'
import parts_dust_serial from './parts/dust-serial.json'
import parts_encoder_rotary from './parts/encoder-rotary.json'
import parts_energy_meter_485 from './parts/energy-meter-485.json'
import parts_expander_16_i2c from './parts/expander-16-i2c.json'
import parts_expander_16_spi from './parts/expander-16-spi.json'
import parts_expander_8_i2c from './parts/expander-8-i2c.json'
import parts_fan_4wire_pwm from './parts/fan-4wire-pwm.json'
import parts_fan_5v from './parts/fan-5v.json'
import parts_fan_socket from './parts/fan-socket.json'
import parts_fingerprint_serial from './parts/fingerprint-serial.json'
import parts_flow_pulse from './parts/flow-pulse.json'
import parts_gas_analog from './parts/gas-analog.json'
import parts_geiger_pulse from './parts/geiger-pulse.json'
import parts_gesture_i2c from './parts/gesture-i2c.json'
import parts_header_forty_hammer from './parts/header-forty-hammer.json'
import parts_header_forty from './parts/header-forty.json'
import parts_hub_2_i2c from './parts/hub-2-i2c.json'
import parts_hub_8_i2c from './parts/hub-8-i2c.json'
import parts_humidity_i2c from './parts/humidity-i2c.json'
import parts_infrared_receiver from './parts/infrared-receiver.json'
import parts_infrared_sender from './parts/infrared-sender.json'
import parts_instrument_rs232 from './parts/instrument-rs232.json'
import parts_joystick_contacts from './parts/joystick-contacts.json'
import parts_keyboard_usb from './parts/keyboard-usb.json'
import parts_keypad_matrix from './parts/keypad-matrix.json'
import parts_label_printer_serial from './parts/label-printer-serial.json'
import parts_lamps_add_on_3 from './parts/lamps-add-on-3.json'
import parts_led_plain from './parts/led-plain.json'
import parts_lever_sensors_8 from './parts/lever-sensors-8.json'
import parts_light_i2c from './parts/light-i2c.json'
import parts_magnetic_i2c from './parts/magnetic-i2c.json'
import parts_matrix_8x8_spi from './parts/matrix-8x8-spi.json'
import parts_memory_i2c from './parts/memory-i2c.json'
import parts_microphone_i2s from './parts/microphone-i2s.json'
import parts_modem_serial from './parts/modem-serial.json'
import parts_modem_wide_stick from './parts/modem-wide-stick.json'
import parts_mosfet_board from './parts/mosfet-board.json'
import parts_motion_i2c from './parts/motion-i2c.json'
import parts_motion_passive from './parts/motion-passive.json'
import parts_motor_driver_2 from './parts/motor-driver-2.json'
import parts_network_spi from './parts/network-spi.json'
import parts_oled_i2c from './parts/oled-i2c.json'
import parts_oled_spi_15 from './parts/oled-spi-15.json'
import parts_orientation_i2c from './parts/orientation-i2c.json'
import parts_panel_flat_7 from './parts/panel-flat-7.json'
import parts_panel_video_5 from './parts/panel-video-5.json'
import parts_panel_video_7 from './parts/panel-video-7.json'
import parts_player_serial from './parts/player-serial.json'
import parts_positioning_serial from './parts/positioning-serial.json'
import parts_power_add_on_battery from './parts/power-add-on-battery.json'
import parts_power_latch from './parts/power-latch.json'
import parts_pressure_humidity_i2c from './parts/pressure-humidity-i2c.json'
import parts_pressure_spi from './parts/pressure-spi.json'
import parts_probe_onewire from './parts/probe-onewire.json'
import parts_probe_tank_analog from './parts/probe-tank-analog.json'
import parts_pulse_per_second from './parts/pulse-per-second.json'
import parts_radio_spi from './parts/radio-spi.json'
import parts_receiver_wide_stick from './parts/receiver-wide-stick.json'
import parts_relay_add_on_3 from './parts/relay-add-on-3.json'
import parts_relay_bare from './parts/relay-bare.json'
import parts_relay_board_1 from './parts/relay-board-1.json'
import parts_relay_board_2_5v from './parts/relay-board-2-5v.json'
import parts_relay_board_4 from './parts/relay-board-4.json'
import parts_relay_board_8 from './parts/relay-board-8.json'
import parts_relay_latching from './parts/relay-latching.json'
import parts_ribbon_breakout_40 from './parts/ribbon-breakout-40.json'
import parts_rs232_converter from './parts/rs232-converter.json'
import parts_scale_two_wire from './parts/scale-two-wire.json'
import parts_scanner_serial from './parts/scanner-serial.json'
import parts_screen_epaper_29 from './parts/screen-epaper-29.json'
import parts_screen_spi_13 from './parts/screen-spi-13.json'
import parts_screen_spi_24 from './parts/screen-spi-24.json'
import parts_screen_spi_35_touch from './parts/screen-spi-35-touch.json'
import parts_segments_4_i2c from './parts/segments-4-i2c.json'
import parts_sensor_add_on_10 from './parts/sensor-add-on-10.json'
import parts_serial_2_i2c from './parts/serial-2-i2c.json'
import parts_servo_16_i2c from './parts/servo-16-i2c.json'
import parts_servo_small from './parts/servo-small.json'
import parts_soil_moisture_i2c from './parts/soil-moisture-i2c.json'
import parts_stepper_driver from './parts/stepper-driver.json'
import parts_strip_addressable from './parts/strip-addressable.json'
import parts_strip_clocked from './parts/strip-clocked.json'
import parts_strip_plain_12v from './parts/strip-plain-12v.json'
import parts_switch_24v_process from './parts/switch-24v-process.json'
import parts_switch_solid_state from './parts/switch-solid-state.json'
import parts_terminals_header from './parts/terminals-header.json'
import parts_text_display_i2c from './parts/text-display-i2c.json'
import parts_thermal_array_i2c from './parts/thermal-array-i2c.json'
import parts_thermocouple_spi from './parts/thermocouple-spi.json'
import parts_thermometer_distance_i2c from './parts/thermometer-distance-i2c.json'
import parts_tool_iron from './parts/tool-iron.json'
import parts_tool_meter from './parts/tool-meter.json'
import parts_touch_12_i2c from './parts/touch-12-i2c.json'
import parts_ultraviolet_i2c from './parts/ultraviolet-i2c.json'
import supplies_adapter_12v_2a from './supplies/adapter-12v-2a.json'
import supplies_adapter_12v_5a from './supplies/adapter-12v-5a.json'
import supplies_adapter_5v_1a2 from './supplies/adapter-5v-1a2.json'
import supplies_adapter_5v_2a4 from './supplies/adapter-5v-2a4.json'
import supplies_adapter_5v_3a from './supplies/adapter-5v-3a.json'
import supplies_adapter_5v_5a from './supplies/adapter-5v-5a.json'
import supplies_adapter_usb_2a from './supplies/adapter-usb-2a.json'
import supplies_bench_supply from './supplies/bench-supply.json'
import supplies_cell_lithium_1 from './supplies/cell-lithium-1.json'
import supplies_din_rail_24v_2a5 from './supplies/din-rail-24v-2a5.json'
import supplies_din_rail_5v_5a from './supplies/din-rail-5v-5a.json'
import supplies_hub_adapter_5v_4a from './supplies/hub-adapter-5v-4a.json'
import supplies_internal_usb_500 from './supplies/internal-usb-500.json'
import supplies_lead_12v_7ah from './supplies/lead-12v-7ah.json'
import supplies_network_cable_13w from './supplies/network-cable-13w.json'
import supplies_network_cable_25w from './supplies/network-cable-25w.json'
import supplies_pack_lithium_3s from './supplies/pack-lithium-3s.json'
import supplies_power_bank_12ah from './supplies/power-bank-12ah.json'
import supplies_solar_battery_5v from './supplies/solar-battery-5v.json'
import supplies_solar_panel_20w from './supplies/solar-panel-20w.json'
import supplies_transformer_9v_ac from './supplies/transformer-9v-ac.json'
import supplies_ups_board_2_cells from './supplies/ups-board-2-cells.json'
import supplies_usb_c_1a5 from './supplies/usb-c-1a5.json'
import supplies_usb_c_3a from './supplies/usb-c-3a.json'
import supplies_usb_c_pd_12v from './supplies/usb-c-pd-12v.json'
import supplies_usb_c_pd_65 from './supplies/usb-c-pd-65.json'
import supplies_usb_port_2 from './supplies/usb-port-2.json'
import supplies_usb_port_3 from './supplies/usb-port-3.json'
import supplies_vehicle_12v from './supplies/vehicle-12v.json'
import power_adapter_plug_micro_usb from './power/adapter-plug-micro-usb.json'
import power_adapter_plug_usb_c from './power/adapter-plug-usb-c.json'
import power_cable_usb_thick from './power/cable-usb-thick.json'
import power_cable_usb_thin from './power/cable-usb-thin.json'
import power_cable_usb from './power/cable-usb.json'
import power_capacitor_1000 from './power/capacitor-1000.json'
import power_capacitor_470 from './power/capacitor-470.json'
import power_capacitor_4700 from './power/capacitor-4700.json'
import power_capacitor_super from './power/capacitor-super.json'
import power_carrier_12v from './power/carrier-12v.json'
import power_diode_ideal from './power/diode-ideal.json'
import power_diode_schottky from './power/diode-schottky.json'
import power_diode_silicon from './power/diode-silicon.json'
import power_fuse_1000 from './power/fuse-1000.json'
import power_fuse_2000 from './power/fuse-2000.json'
import power_fuse_3150 from './power/fuse-3150.json'
import power_fuse_500 from './power/fuse-500.json'
import power_fuse_5000 from './power/fuse-5000.json'
import power_fuse_self_1100 from './power/fuse-self-1100.json'
import power_fuse_self_2500 from './power/fuse-self-2500.json'
import power_fuse_self_500 from './power/fuse-self-500.json'
import power_guard_vehicle_12v from './power/guard-vehicle-12v.json'
import power_hub_bus from './power/hub-bus.json'
import power_hub_powered_leaky from './power/hub-powered-leaky.json'
import power_hub_powered from './power/hub-powered.json'
import power_latch_power from './power/latch-power.json'
import power_load_12v from './power/load-12v.json'
import power_load_current from './power/load-current.json'
import power_load_power from './power/load-power.json'
import power_modem_12v from './power/modem-12v.json'
import power_plug_header from './power/plug-header.json'
import power_plug_micro_usb from './power/plug-micro-usb.json'
import power_plug_round from './power/plug-round.json'
import power_plug_usb_c from './power/plug-usb-c.json'
import power_rectifier_bridge from './power/rectifier-bridge.json'
import power_rectifier_schottky from './power/rectifier-schottky.json'
import power_regulator_linear_5v from './power/regulator-linear-5v.json'
import power_regulator_low_drop_3v3 from './power/regulator-low-drop-3v3.json'
import power_splitter_network_5v_4a from './power/splitter-network-5v-4a.json'
import power_splitter_network_5v from './power/splitter-network-5v.json'
import power_step_down_3v3_2a from './power/step-down-3v3-2a.json'
import power_step_down_5v_3a from './power/step-down-5v-3a.json'
import power_step_down_5v_5a from './power/step-down-5v-5a.json'
import power_step_up_5v_2a from './power/step-up-5v-2a.json'
import power_step_up_down_5v_2a from './power/step-up-down-5v-2a.json'
import power_switch_power from './power/switch-power.json'
import power_terminal_screw from './power/terminal-screw.json'
import power_wire_jumper from './power/wire-jumper.json'
import power_wire_pair from './power/wire-pair.json'

export const boards: unknown[] = [
  boards_early_26,
  boards_forty_classic,
  boards_forty_io_bridge,
  boards_forty_usb_c,
  boards_tiny_unpopulated,
]

export const parts: unknown[] = [
  parts_acceleration_i2c,
  parts_adapter_serial_usb,
  parts_adapter_usb_micro,
  parts_adapter_video_micro,
  parts_adapter_video_mini,
  parts_air_quality_i2c,
  parts_amplifier_i2s,
  parts_analog_4_i2c,
  parts_analog_8_spi,
  parts_analog_out_i2c,
  parts_audio_add_on,
  parts_audio_dac_add_on,
  parts_breadboard_400,
  parts_bus_vehicle_spi,
  parts_button_1,
  parts_buttons_4,
  parts_buzzer_active,
  parts_buzzer_tone,
  parts_carbon_dioxide_i2c,
  parts_card_memory_128,
  parts_card_memory_16,
  parts_card_memory_32_plain,
  parts_card_memory_32,
  parts_card_memory_64,
  parts_card_reader_spi,
  parts_case_closed,
  parts_case_cooler_body,
  parts_case_early,
  parts_case_tall,
  parts_case_tiny,
  parts_case_vented,
  parts_clock_add_on,
  parts_clock_cell_i2c,
  parts_clock_plain_i2c,
  parts_colour_i2c,
  parts_controller_3v3_serial,
  parts_controller_5v_serial,
  parts_cooler_active,
  parts_cooler_block,
  parts_cooler_fins,
  parts_current_meter_i2c,
  parts_device_usb,
  parts_distance_echo_5v,
  parts_distance_light_i2c,
  parts_dust_serial,
  parts_encoder_rotary,
  parts_energy_meter_485,
  parts_expander_16_i2c,
  parts_expander_16_spi,
  parts_expander_8_i2c,
  parts_fan_4wire_pwm,
  parts_fan_5v,
  parts_fan_socket,
  parts_fingerprint_serial,
  parts_flow_pulse,
  parts_gas_analog,
  parts_geiger_pulse,
  parts_gesture_i2c,
  parts_header_forty_hammer,
  parts_header_forty,
  parts_hub_2_i2c,
  parts_hub_8_i2c,
  parts_humidity_i2c,
  parts_infrared_receiver,
  parts_infrared_sender,
  parts_instrument_rs232,
  parts_joystick_contacts,
  parts_keyboard_usb,
  parts_keypad_matrix,
  parts_label_printer_serial,
  parts_lamps_add_on_3,
  parts_led_plain,
  parts_lever_sensors_8,
  parts_light_i2c,
  parts_magnetic_i2c,
  parts_matrix_8x8_spi,
  parts_memory_i2c,
  parts_microphone_i2s,
  parts_modem_serial,
  parts_modem_wide_stick,
  parts_mosfet_board,
  parts_motion_i2c,
  parts_motion_passive,
  parts_motor_driver_2,
  parts_network_spi,
  parts_oled_i2c,
  parts_oled_spi_15,
  parts_orientation_i2c,
  parts_panel_flat_7,
  parts_panel_video_5,
  parts_panel_video_7,
  parts_player_serial,
  parts_positioning_serial,
  parts_power_add_on_battery,
  parts_power_latch,
  parts_pressure_humidity_i2c,
  parts_pressure_spi,
  parts_probe_onewire,
  parts_probe_tank_analog,
  parts_pulse_per_second,
  parts_radio_spi,
  parts_receiver_wide_stick,
  parts_relay_add_on_3,
  parts_relay_bare,
  parts_relay_board_1,
  parts_relay_board_2_5v,
  parts_relay_board_4,
  parts_relay_board_8,
  parts_relay_latching,
  parts_ribbon_breakout_40,
  parts_rs232_converter,
  parts_scale_two_wire,
  parts_scanner_serial,
  parts_screen_epaper_29,
  parts_screen_spi_13,
  parts_screen_spi_24,
  parts_screen_spi_35_touch,
  parts_segments_4_i2c,
  parts_sensor_add_on_10,
  parts_serial_2_i2c,
  parts_servo_16_i2c,
  parts_servo_small,
  parts_soil_moisture_i2c,
  parts_stepper_driver,
  parts_strip_addressable,
  parts_strip_clocked,
  parts_strip_plain_12v,
  parts_switch_24v_process,
  parts_switch_solid_state,
  parts_terminals_header,
  parts_text_display_i2c,
  parts_thermal_array_i2c,
  parts_thermocouple_spi,
  parts_thermometer_distance_i2c,
  parts_tool_iron,
  parts_tool_meter,
  parts_touch_12_i2c,
  parts_ultraviolet_i2c,
]

export const supplies: unknown[] = [
  supplies_adapter_12v_2a,
  supplies_adapter_12v_5a,
  supplies_adapter_5v_1a2,
  supplies_adapter_5v_2a4,
  supplies_adapter_5v_3a,
  supplies_adapter_5v_5a,
  supplies_adapter_usb_2a,
  supplies_bench_supply,
  supplies_cell_lithium_1,
  supplies_din_rail_24v_2a5,
  supplies_din_rail_5v_5a,
  supplies_hub_adapter_5v_4a,
  supplies_internal_usb_500,
  supplies_lead_12v_7ah,
  supplies_network_cable_13w,
  supplies_network_cable_25w,
  supplies_pack_lithium_3s,
  supplies_power_bank_12ah,
  supplies_solar_battery_5v,
  supplies_solar_panel_20w,
  supplies_transformer_9v_ac,
  supplies_ups_board_2_cells,
  supplies_usb_c_1a5,
  supplies_usb_c_3a,
  supplies_usb_c_pd_12v,
  supplies_usb_c_pd_65,
  supplies_usb_port_2,
  supplies_usb_port_3,
  supplies_vehicle_12v,
]

export const power: unknown[] = [
  power_adapter_plug_micro_usb,
  power_adapter_plug_usb_c,
  power_cable_usb_thick,
  power_cable_usb_thin,
  power_cable_usb,
  power_capacitor_1000,
  power_capacitor_470,
  power_capacitor_4700,
  power_capacitor_super,
  power_carrier_12v,
  power_diode_ideal,
  power_diode_schottky,
  power_diode_silicon,
  power_fuse_1000,
  power_fuse_2000,
  power_fuse_3150,
  power_fuse_500,
  power_fuse_5000,
  power_fuse_self_1100,
  power_fuse_self_2500,
  power_fuse_self_500,
  power_guard_vehicle_12v,
  power_hub_bus,
  power_hub_powered_leaky,
  power_hub_powered,
  power_latch_power,
  power_load_12v,
  power_load_current,
  power_load_power,
  power_modem_12v,
  power_plug_header,
  power_plug_micro_usb,
  power_plug_round,
  power_plug_usb_c,
  power_rectifier_bridge,
  power_rectifier_schottky,
  power_regulator_linear_5v,
  power_regulator_low_drop_3v3,
  power_splitter_network_5v_4a,
  power_splitter_network_5v,
  power_step_down_3v3_2a,
  power_step_down_5v_3a,
  power_step_down_5v_5a,
  power_step_up_5v_2a,
  power_step_up_down_5v_2a,
  power_switch_power,
  power_terminal_screw,
  power_wire_jumper,
  power_wire_pair,
]
