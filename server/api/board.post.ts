import { heavyRoute } from '../utils/heavy'

export default heavyRoute('board')
