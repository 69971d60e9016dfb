import classes from './Measure.module.css';

/** Marks what lies in one's own drawer. */
export const Mine = ({ item }: { item: { owned: boolean } }) =>
  item.owned ? <span className={classes.mine}>yours</span> : null;
