import { type RefObject, useEffect, useRef, useState } from "react";

/** The width a drawing has, in pixels, so that its lettering keeps its size on a small screen. */
export function useWidth<T extends Element>(): [RefObject<T | null>, number] {
  const box = useRef<T>(null);
  const [width, setWidth] = useState(720);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width) || 720));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return [box, width];
}
