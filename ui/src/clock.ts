/**
 * Instants come from the server in the workshop's zone; they are read as written,
 * so that a tablet in another zone shows the bench's own time.
 */
const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

export function clock(iso: string, form: 'day' | 'time' | 'full' = 'full'): string {
  const date = new Date(`${iso.slice(0, 10)}T00:00:00Z`);
  const day = days[date.getUTCDay()] ?? '';
  const time = iso.slice(11, 16);
  if (form === 'time') {
    return time;
  }
  const full = `${day} ${date.getUTCDate()} ${months[date.getUTCMonth()]}`;
  return form === 'day' ? `${day} ${date.getUTCDate()}` : `${full}, ${time}`;
}

export function left(from: string, to: string): string {
  const minutes = Math.max(0, Math.round((Date.parse(to) - Date.parse(from)) / 60_000));
  if (minutes < 90) {
    return `${minutes} min`;
  }
  return minutes < 48 * 60 ? `${Math.round(minutes / 60)} h` : `${Math.round(minutes / 1440)} days`;
}
