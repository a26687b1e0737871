export function DebriefView() {
  return null;
}
