import { cleanup, render } from '@testing-library/react'
import { Tooltip } from 'radix-ui'
import type { ReactNode } from 'react'
import { afterEach } from 'vitest'

afterEach(cleanup)

/** For tests: shows a part of the page by itself, as it stands in the whole. */
export const shown = (part: ReactNode) => render(part, { wrapper: ({ children }) => <Tooltip.Provider>{children}</Tooltip.Provider> })
