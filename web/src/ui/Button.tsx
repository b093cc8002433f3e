import type { ButtonHTMLAttributes } from 'react'

export interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: 'plain' | 'primary' | 'quiet'
}

const LOOKS = {
  plain: 'border border-rule bg-panel text-ink hover:bg-well',
  primary: 'bg-thrift font-medium text-on-thrift hover:brightness-110',
  quiet: 'text-soft hover:bg-well hover:text-ink',
}

export function Button({ look = 'plain', className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex h-7 items-center justify-center gap-1.5 rounded-md px-2.5 whitespace-nowrap disabled:opacity-40 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  )
}
