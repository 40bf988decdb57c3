#!/usr/bin/env node
// `npm run check:kernel-trees [FOLDER]`: the blobs of Debian's arm64 kernel package, each read, printed, compiled again
// and compared, and the time that takes against dtc in the same run. `-- --sources [FOLDER]`: the boards' sources of
// Debian's kernel sources, as they are written, through our preprocessor and compiler and through cpp and dtc, with and
// without labels. Wants apt-get and dpkg-deb, and the network for the packages where no folder is given; no part of
// `npm test`.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { register } from 'tsx/esm/api'

register()
const { readBlob } = await import('../core/devicetree/blob/read.ts')
const { writeBlob } = await import('../core/devicetree/blob/write.ts')
const { compileText } = await import('../core/devicetree/source/compile.ts')
const { printSource } = await import('../core/devicetree/source/print.ts')
const { profileOf } = await import('../core/devicetree/board/profile.ts')

function run(command, args, options = {}) {
  const done = spawnSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28, ...options })
  if (done.error || done.status !== 0) throw new Error(`${command} ${args[0]}: `
    + `${done.error?.message ?? done.stderr.trim()}`)
  return done.stdout
}

/** Folder with the package's trees; taken from the first argument when there is one. */
function trees() {
  if (process.argv[2]) return process.argv[2]
  const folder = mkdtempSync(join(tmpdir(), 'kernel-trees-'))
  for (const part of ['lists/partial', 'cache/archives/partial',
    'files']) mkdirSync(join(folder, part), { recursive: true })
  const apt = [
    '-o', 'APT::Architecture=arm64', '-o', 'APT::Architectures=arm64', '-o',
    `Dir::State::Lists=${join(folder, 'lists')}`, '-o',
    `Dir::Cache=${join(folder, 'cache')}`,
  ]
  run('apt-get', [...apt, 'update'])
  const [, kernel] = /Depends: (linux-image-\S+)/.exec(run('apt-cache', [...apt, 'depends', 'linux-image-arm64'])) ?? []
  if (!kernel) throw new Error('linux-image-arm64 names no kernel package')
  console.log(`fetching ${kernel}`)
  run('apt-get', [...apt, 'download', kernel], { cwd: folder })
  run('dpkg-deb', ['-x', join(folder, readdirSync(folder).find(file => file.endsWith('.deb'))), join(folder, 'files')])
  return join(folder, 'files')
}

const same = (a, b) => a.name === b.name && a.properties.length === b.properties.length
  && a.children.length === b.children.length
  && a.properties.every((property, i) =>
    property.name === b.properties[i].name && Buffer.compare(property.value, b.properties[i].value) === 0)
  && a.children.every((child, i) => same(child, b.children[i]))

if (process.argv[2] === '--sources') sources(process.argv[3])
else blobs()

/** Sources of a kernel, unpacked from Debian's package where no folder is given. */
function sourceFolder(given) {
  if (given) return given
  const folder = mkdtempSync(join(tmpdir(), 'kernel-sources-'))
  const [, name] = /Depends: (linux-source-[\d.]+)/.exec(run('apt-cache', ['depends', 'linux-source'])) ?? []
  if (!name) throw new Error('linux-source names no package')
  console.log(`fetching ${name}`)
  run('apt-get', ['download', name], { cwd: folder })
  run('dpkg-deb', ['-x', join(folder, readdirSync(folder).find(file => file.endsWith('.deb'))), folder])
  const parts = ['arch/arm/boot/dts', 'arch/arm64/boot/dts', 'include/dt-bindings',
    'include/uapi/linux/input-event-codes.h', 'scripts/dtc']
  run('tar', ['-xf', join(folder, 'usr/src', `${name}.tar.xz`), '-C', folder, ...parts.map(part => `${name}/${part}`)])
  return join(folder, name)
}

function sources(given) {
  const kernel = sourceFolder(given)
  const prefixes = join(kernel, 'scripts/dtc/include-prefixes')
  const roots = ['arm', 'arm64'].map(arch => join(kernel, `arch/${arch}/boot/dts`))
  const files = {
    read(name, from) {
      const file = [dirname(from), prefixes, ...roots].map(folder => join(folder, name)).find(path => existsSync(path))
      return file === undefined ? null : { text: readFileSync(file, 'utf8'), file }
    },
  }
  const list = roots.flatMap(
    root => readdirSync(root, { recursive: true }).map(String).filter(name => name.endsWith('.dts'))
      .map(name => join(root, name)),
  )
  const work = mkdtempSync(join(tmpdir(), 'kernel-sources-run-'))
  const [pre, blob] = [join(work, 'a.pre'), join(work, 'a.dtb')]
  let [ours, theirs, failed] = [0, 0, 0]
  for (const [i, file] of list.entries()) {
    const symbols = i % 2 === 1
    const before = performance.now()
    run('/usr/bin/cpp',
      ['-nostdinc', '-I', prefixes, '-undef', '-D__DTS__', '-x', 'assembler-with-cpp', file, '-o', pre])
    run('/usr/bin/dtc',
      ['-q', ...symbols ? ['-@'] : [], '-i', dirname(file), '-I', 'dts', '-O', 'dtb', '-o', blob, pre])
    theirs += performance.now() - before
    const wanted = readBlob(readFileSync(blob)).root
    for (const [how, text] of [['as written', readFileSync(file, 'utf8')], ['after cpp', readFileSync(pre, 'utf8')]]) {
      const start = performance.now()
      try {
        const made = writeBlob(compileText(text, { file, files, symbols }))
        if (how === 'as written') ours += performance.now() - start
        if (!same(readBlob(made).root, wanted)) throw new Error('the tree is another one')
      }
      catch (error) {
        failed++
        console.log(`${file}, ${how}: ${error.message}`)
      }
    }
  }
  console.log(`${list.length} sources, as written and after cpp: ${2 * list.length - failed} equal to cpp and `
    + `dtc, ${failed} not`)
  console.log(`time: ${(ours / theirs).toFixed(2)} of that of cpp and dtc`)
  process.exitCode = failed ? 1 : 0
}

function blobs() {
  const all = readdirSync(trees(), { recursive: true, withFileTypes: true })
    .filter(entry => entry.isFile() && entry.name.endsWith('.dtb'))
    .map(entry => join(entry.parentPath ?? entry.path, entry.name))
    .sort()
  if (!all.length) throw new Error('there is no .dtb in it')
  const scratch = mkdtempSync(join(tmpdir(), 'kernel-trees-run-'))
  let [ours, theirs, failed, bytes, boards] = [0, 0, 0, 0, 0]
  for (const [i, file] of all.entries()) {
    const blob = readFileSync(file)
    bytes += blob.length
    const start = performance.now()
    let again
    try {
      const tree = readBlob(blob)
      again = compileText(printSource(tree))
      writeBlob(again)
      ours += performance.now() - start
      if (!same(tree.root, again.root)) throw new Error('the tree is another one')
      if (profileOf(tree).controllers.some(controller => controller.groups.some(group => group.pins.length))) boards++
    }
    catch (error) {
      failed++
      console.log(`${file}: ${error.message}`)
    }
    // The same work by dtc, on every tenth: blob to source, source to blob.
    if (i % 10) continue
    const before = performance.now()
    const source = run('/usr/bin/dtc', ['-q', '-I', 'dtb', '-O', 'dts', file])
    writeFileSync(join(scratch, 'a.dts'), source)
    run('/usr/bin/dtc', ['-q', '-I', 'dts', '-O', 'dtb', '-o', join(scratch, 'a.dtb'), join(scratch, 'a.dts')])
    theirs += performance.now() - before
  }
  console.log(`${boards} of them read as boards with controllers and the pins of their groups`)
  const sampled = Math.ceil(all.length / 10)
  console.log(
    `${all.length} trees, ${(bytes / 1e6).toFixed(1)} MB: ${all.length - failed} equal after reading, printing and `
    + `compiling, ${failed} not`,
  )
  console.log(
    `a tree: ${(ours / all.length).toFixed(2)} ms here in one warm process, ${(theirs / sampled).toFixed(2)} ms by dtc `
    + `as two processes; ratio ${((ours / all.length) / (theirs / sampled)).toFixed(2)}`,
  )
  process.exitCode = failed ? 1 : 0
}
