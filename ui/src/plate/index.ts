export { type Coat, coatAt } from './coat';
export { Plate } from './Plate';
