/** Lengths of wires in the maker's unit: whole centimetres, inches with one place. */
export function useWireLength() {
  const { units } = useUnits()
  const length = (metres: number) =>
    Number(units.value.centimetre.show(metres * 100).toFixed(units.value.centimetre.unit === 'cm' ? 0 : 1))
  return { units, length }
}
