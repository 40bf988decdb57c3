/** Servers beside the one that all tests share: to be stopped, changed or loaded. */
import { spawn, type ChildProcess } from 'node:child_process'
import { createServer, type AddressInfo } from 'node:net'
import { join } from 'node:path'
import { expect } from '@playwright/test'

/** A port that nobody listens on. */
const freePort = () => new Promise<number>((resolve, reject) => {
  const probe = createServer()
  probe.on('error', reject)
  probe.listen(0, '127.0.0.1', () => {
    const { port } = probe.address() as AddressInfo
    probe.close(() => resolve(port))
  })
})

/** Starts the server of a build on a port of its own. Whoever starts it stops it. */
export async function startServer(folder = '.output', env: Record<string, string> = {}) {
  const port = await freePort()
  const address = `http://127.0.0.1:${port}`
  let child: ChildProcess
  const start = async () => {
    child = spawn(process.execPath, [join(folder, 'server', 'index.mjs')], {
      env: { ...process.env, ...env, PORT: String(port), HOST: '127.0.0.1', NODE_ENV: 'production' }, stdio: 'ignore',
    })
    await expect.poll(() => fetch(`${address}/api/catalogue`).then(answer => answer.ok, () => false),
      { timeout: 20_000 }).toBe(true)
  }
  const stop = () => new Promise<void>((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve()
    child.once('exit', () => resolve())
    child.kill('SIGKILL')
  })
  await start()
  return { address, start, stop }
}
