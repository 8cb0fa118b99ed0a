import { Children, cloneElement, isValidElement, type ReactElement, type ReactNode } from 'react'

/** The router as screens of a unit test see it: links are links, and nobody is sent anywhere. */
const nowhere = (): void => undefined
export const useRouter = () => ({ push: nowhere, replace: nowhere, back: nowhere })

export function Link({ href, asChild, children }: { href: string; asChild?: boolean; children: ReactNode }) {
  const only = asChild ? Children.only(children) : null
  if (isValidElement(only)) return cloneElement(only as ReactElement<{ href: string; role: string }>, { href, role: 'link' })
  return <a href={href}>{children}</a>
}
