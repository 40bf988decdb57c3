/** Every route with its method; what is not here is not there. A test holds this list to the files of the routes. */
export const ROUTES: Readonly<Record<string, 'GET' | 'POST'>> = {
  '/api/catalogue': 'GET',
  '/api/check': 'POST',
  '/api/choose': 'POST',
  '/api/place': 'POST',
  '/api/power': 'POST',
  '/api/build': 'POST',
  '/api/program': 'POST',
  '/api/begin': 'POST',
  '/api/boot/lint': 'POST',
  '/api/boot/write': 'POST',
  '/api/boot/rehearse': 'POST',
  '/api/dt/compile': 'POST',
  '/api/dt/decompile': 'POST',
  '/api/dt/apply': 'POST',
  '/api/dt/board': 'POST',
  '/api/dt/overlay': 'POST',
}
