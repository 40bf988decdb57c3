// @vitest-environment happy-dom
/** The shared controls: what goes in, what comes out, and what a person is told. */
import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import ChoiceList from '../../../app/shared/ChoiceList.vue'
import FoldPanel from '../../../app/shared/FoldPanel.vue'
import IconAct from '../../../app/shared/IconAct.vue'
import MiniHeader from '../../../app/shared/MiniHeader.vue'
import NumberField from '../../../app/shared/NumberField.vue'
import SortTable from '../../../app/shared/SortTable.vue'
import ViewTabs from '../../../app/shared/ViewTabs.vue'
import { vuetify } from './vuetify'

const mounted: { unmount: () => void }[] = []
afterEach(() => mounted.splice(0).forEach(wrapper => wrapper.unmount()))
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- each control has props of its own
const show = (component: any, props: Record<string, unknown>, slots = {}) => {
  const wrapper = mount(component, { props, slots, attachTo: document.body, global: { plugins: [vuetify()] } })
  mounted.push(wrapper)
  return wrapper
}

describe('NumberField', () => {
  const type = async (wrapper: ReturnType<typeof show>, text: string) => {
    const input = wrapper.find('input')
    await input.setValue(text)
    await input.trigger('keydown', { key: 'Enter' })
  }

  it('hands on a figure within its range, once', async () => {
    const wrapper = show(NumberField, { value: 3, min: 0, max: 10, unit: 'V', label: 'At' })
    await type(wrapper, '4.5')
    await wrapper.find('input').trigger('blur')
    expect(wrapper.emitted('set')![0]).toEqual([4.5])
    await wrapper.setProps({ value: 4.5 })
    await wrapper.find('input').trigger('blur')
    expect(wrapper.emitted('set')!.length).toBe(wrapper.emitted('set')!.filter(([value]) => value === 4.5).length)
  })

  it('keeps what cannot be, says why, and hands nothing on', async () => {
    const wrapper = show(NumberField, { value: 3, min: 0, max: 10, unit: 'V' })
    await type(wrapper, '99')
    expect(wrapper.emitted('set')).toBeUndefined()
    expect(wrapper.text()).toContain('99 cannot be. A number from 0 to 10 V.')
    expect((wrapper.find('input').element as HTMLInputElement).value).toBe('99')
    await wrapper.find('input').trigger('keydown', { key: 'Escape' })
    expect(wrapper.text()).not.toContain('cannot be')
  })

  it('takes nothing only where that means something', async () => {
    const needed = show(NumberField, { value: 3, min: 0 })
    await type(needed, '')
    expect(needed.emitted('set')).toBeUndefined()
    expect(needed.text()).toContain('A number from 0 up.')
    const free = show(NumberField, { value: 3, mayBeEmpty: true })
    await type(free, '')
    expect(free.emitted('set')![0]).toEqual([null])
  })
})

describe('ChoiceList', () => {
  const items = [{ id: 'a' }, { id: 'b' }, { id: 'c' }]
  const list = (chosen: string | null) =>
    show(ChoiceList, { items, chosen, labelledBy: 'x', test: 't' }, { default: '<b>one</b>' })

  it('is a group of radios of which one can be reached', () => {
    const wrapper = list('b')
    expect(wrapper.attributes('role')).toBe('radiogroup')
    const radios = wrapper.findAll('[role=radio]')
    expect(radios.map(radio => radio.attributes('aria-checked'))).toEqual(['false', 'true', 'false'])
    expect(radios.map(radio => radio.attributes('tabindex'))).toEqual(['-1', '0', '-1'])
    expect(list(null).findAll('[role=radio]').map(radio => radio.attributes('tabindex'))).toEqual(['0', '-1', '-1'])
  })

  it('goes by arrows around its end, and by pressing', async () => {
    const wrapper = list('c')
    const radios = wrapper.findAll('[role=radio]')
    await radios[2]!.trigger('keydown', { key: 'ArrowDown' })
    await radios[0]!.trigger('keydown', { key: 'ArrowLeft' })
    await radios[1]!.trigger('keydown', { key: ' ' })
    await radios[1]!.trigger('click')
    expect(wrapper.emitted('choose')!.map(([id]) => id)).toEqual(expect.arrayContaining(['a', 'c', 'b']))
    expect(document.activeElement?.getAttribute('data-test')).toMatch(/^t-/)
  })

  it('tells what is pointed at', async () => {
    const wrapper = list(null)
    await wrapper.findAll('[role=radio]')[1]!.trigger('mouseenter')
    await wrapper.findAll('[role=radio]')[1]!.trigger('mouseleave')
    expect(wrapper.emitted('look')).toEqual([['b'], [null]])
  })
})

describe('the smaller ones', () => {
  it('a fold draws what is in it when it is opened', async () => {
    const wrapper = show(FoldPanel, { title: 'More' }, { default: '<i class="inside">deep</i>' })
    expect(wrapper.find('.inside').exists()).toBe(false)
    await wrapper.find('button').trigger('click')
    expect(wrapper.find('.inside').exists()).toBe(true)
    expect(wrapper.emitted('update:open')![0]).toEqual([true])
  })

  it('a picture button has a name', () => {
    const wrapper = show(IconAct, { name: 'Close it', icon: 'M0 0' })
    expect(wrapper.find('button').attributes('aria-label')).toBe('Close it')
  })

  it('views are tabs by name', async () => {
    const wrapper = show(ViewTabs, {
      modelValue: 'a', views: [{ id: 'a', name: 'First' }, { id: 'b', name: 'Second' }], test: 'v', label: 'Views',
    })
    const tabs = wrapper.findAll('[role=tab]')
    expect(tabs.map(tab => tab.text())).toEqual(['First', 'Second'])
    await tabs[1]!.trigger('click')
    expect(wrapper.emitted('update:modelValue')!.at(-1)).toEqual(['b'])
  })

  it('a small header has a cell for each position, the first one square', () => {
    const wrapper = show(MiniHeader, { cells: ['red', null, 'blue', null], label: 'Header' })
    const cells = wrapper.findAll('rect')
    expect(cells).toHaveLength(4)
    expect(cells[0]!.attributes('rx')).toBe('0')
    expect(cells[0]!.attributes('style')).toContain('red')
    // Odd positions lie in the inner row, below.
    expect(Number(cells[0]!.attributes('y'))).toBeGreaterThan(Number(cells[1]!.attributes('y')))
  })
})

describe('SortTable', () => {
  const columns = [
    { key: 'name', title: 'Name', value: (row: { name: string }) => row.name },
    { key: 'mA', title: 'mA', value: (row: { mA: number | null }) => row.mA, num: true },
    { key: 'act', title: 'Act', value: () => '', unsorted: true, hidden: true },
  ]
  const rows = [{ name: 'fan', mA: 90 }, { name: 'Lamp', mA: 100 }, { name: 'cell', mA: 9 }]
  const table = (more: Record<string, unknown> = {}, slots = {}) => show(
    SortTable, { rows, columns, rowKey: (row: { name: string }) => row.name, caption: 'Loads', ...more }, slots)
  const names = (wrapper: ReturnType<typeof show>) =>
    wrapper.findAll('tbody tr td:first-child').map(cell => cell.text())

  it('orders figures by size and words by alphabet, by pointer and by key, and says so', async () => {
    const wrapper = table()
    expect(names(wrapper)).toEqual(['fan', 'Lamp', 'cell'])
    const [byName, byFigure] = wrapper.findAll('th')
    await byFigure!.trigger('click')
    expect(names(wrapper)).toEqual(['cell', 'fan', 'Lamp'])
    expect(byFigure!.attributes('aria-sort')).toBe('ascending')
    await byFigure!.trigger('click')
    expect(names(wrapper)).toEqual(['Lamp', 'fan', 'cell'])
    await byName!.trigger('keydown', { key: 'Enter' })
    expect(names(wrapper)).toEqual(['cell', 'fan', 'Lamp'])
  })

  it('is named for readers, and a hidden heading is read and not put in order', async () => {
    const wrapper = table()
    expect(wrapper.find('table > caption').text()).toBe('Loads')
    expect(wrapper.findAll('th')[2]!.text()).toBe('Act')
    await wrapper.findAll('th')[2]!.trigger('click')
    expect(names(wrapper)).toEqual(['fan', 'Lamp', 'cell'])
  })

  it('shows slots, marks rows, and keeps the rows after them last', async () => {
    const wrapper = table(
      { rowClass: (row: { mA: number }) => row.mA > 95 ? 'much' : undefined },
      { mA: '<b>{{ params.row.mA }} mA</b>', after: '<tr><td>together</td></tr>' })
    expect(wrapper.find('.much').text()).toContain('100 mA')
    await wrapper.findAll('th')[1]!.trigger('click')
    expect(names(wrapper).at(-1)).toBe('together')
  })

  it('draws only what is in sight of a long one', () => {
    const many = Array.from({ length: 500 }, (_, i) => ({ name: `part ${i}`, mA: i }))
    const wrapper = table({ rows: many, height: 300 })
    const drawn = wrapper.findAll('tbody tr').length
    expect(drawn).toBeGreaterThan(0)
    expect(drawn).toBeLessThan(200)
    expect(wrapper.find('[role=region]').attributes()).toMatchObject({ 'tabindex': '0', 'aria-label': 'Loads' })
  })
})
