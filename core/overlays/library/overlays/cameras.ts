/** Overlays of cameras and video inputs on the camera connector. From memory unless an overlay says otherwise. */
import type { OverlaySpec } from '../types'
import { at, choice, flag, number, ORIGIN } from './build'

const CSI = '&{/csi} {\n\tstatus = "okay";\n};\n'

/** A bridge from video to the camera connector. */
const videoIn: OverlaySpec = {
  name: 'tc358743', what: 'a video input on the camera connector', group: 'sensing', origin: ORIGIN,
  params: [
    flag('4lane', 'four pairs of wires'),
    number('link-frequency', 486_000_000, 297_000_000, 486_000_000, 'clock of the pairs in Hz'),
    flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the video input')], tree: CSI,
}

const CAMERAS: readonly [name: string, what: string][] = [
  ['imx477', 'a camera of twelve megapixels'], ['imx708', 'a camera that focuses by itself'],
  ['imx296', 'a camera with a global shutter'],
  ['imx290', 'a camera for little light'], ['imx519', 'a camera of sixteen megapixels'],
  ['ov9281', 'a monochrome camera with a global shutter'],
  ['imx258', 'a camera of thirteen megapixels'], ['imx327', 'a camera for little light'],
  ['imx378', 'a camera of twelve megapixels'],
  ['imx462', 'a camera for very little light'], ['ov7251', 'a small monochrome camera with a global shutter'],
  ['ov2311', 'a monochrome camera of two megapixels with a global shutter'], ['ov64a40', 'a camera of 64 megapixels'],
  ['irs1125', 'a camera that measures distance'],
]

const camera = ([name, what]: typeof CAMERAS[number]): OverlaySpec => ({
  name, what: `${what}, on the camera connector`, group: 'sensing', origin: ORIGIN,
  params: [
    choice('rotation', ['0', '90', '180', '270'], '180', 'which way up'),
    choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
    flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ...name === 'imx708' ? [flag('vcm', 'with its focus motor')] : [],
    ...name === 'imx290' ? [number('clock-frequency', 37_125_000, 37_125_000, 74_250_000, 'its crystal in Hz')] : [],
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the camera')], tree: CSI,
})

const cameraSwitch = (ports: number): OverlaySpec => ({
  name: `camera-mux-${ports}port`, what: `a switch for ${ports} cameras on one connector`, group: 'sensing',
  origin: ORIGIN,
  params: [
    ...Array.from({ length: ports }, (_, i) => ['imx219', 'imx477', 'imx708', 'ov5647', 'ov9281']
      .map(sensor => flag(`cam${i}-${sensor}`, `a camera of that kind on port ${i}`))).flat(),
    flag('cam0', 'the switch is on the first connector'),
  ],
  holds: ['the camera connector'], appears: [at('/dev/video0', 'the first camera')], tree: CSI,
})

export const CAMERAS_AND_VIDEO_INPUTS: OverlaySpec[] = [
  {
    name: 'imx219', what: 'a camera on the camera connector', group: 'sensing', origin: ORIGIN,
    params: [
      choice('rotation', ['0', '180'], '180', 'which way up'),
      choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
      flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ],
    holds: ['the camera connector'], appears: [at('/dev/video0', 'the camera')], tree: CSI,
  },
  {
    name: 'ov5647', what: 'a camera on the camera connector', group: 'sensing', origin: ORIGIN,
    params: [
      choice('rotation', ['0', '180'], '0', 'which way up'),
      choice('orientation', ['0', '1', '2'], '2', 'front, back or outer'),
      flag('media-controller', 'programs set up the path'), flag('cam0', 'on the first connector'),
    ],
    holds: ['the camera connector'], excludes: ['imx219'], appears: [at('/dev/video0', 'the camera')],
    tree: CSI,
  },
  ...CAMERAS.map(camera),
  cameraSwitch(2),
  cameraSwitch(4),
  videoIn,
]
