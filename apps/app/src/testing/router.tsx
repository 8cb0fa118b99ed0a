import { Children, cloneElement, isValidElement, type ReactElement, type ReactNode } from 'react'

/** The router as screens of a unit test see it: links are links, and where somebody was sent is remembered. */
export const sent: string[] = []

export const useRouter = () => ({
  push: (path: string) => void sent.push(path),
  replace: (path: string) => void sent.push(path),
  back: () => void sent.push('back'),
})

export function Link({ href, asChild, children }: { href: string; asChild?: boolean; children: ReactNode }) {
  const only = asChild ? Children.only(children) : null
  if (isValidElement(only)) return cloneElement(only as ReactElement<{ href: string; role: string }>, { href, role: 'link' })
  return <a href={href}>{children}</a>
}
