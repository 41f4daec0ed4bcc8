// Is somebody typing, so that keys mean letters?
export function typing(event) {
  return event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
}
