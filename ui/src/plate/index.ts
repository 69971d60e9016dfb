export { type Coat, coatAt } from './coat';
export { Frame, usePlateBox } from './Frame';
export { Plate } from './Plate';
