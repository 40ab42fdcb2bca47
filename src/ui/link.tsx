import NextLink from "next/link";
import type { ComponentProps } from "react";

/** A link within the application. Its page is fetched when it is followed, not when it comes into sight: a comparison has hundreds in sight as it is scrolled. */
export function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />;
}
