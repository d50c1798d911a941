/** Minutes and seconds as a clock counts them down; an hour and more in hours and minutes. */
export function countdown(min: number): string {
  const seconds = Math.max(0, Math.round(min * 60));
  if (seconds >= 90 * 60)
    return `${Math.floor(seconds / 3600)} h ${String(Math.floor((seconds % 3600) / 60)).padStart(2, "0")}`;
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}
