import { heavyRoute } from '../utils/heavy'

export default heavyRoute('first-programs')
