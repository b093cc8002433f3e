export const MENU = 'z-40 min-w-44 rounded-md border border-rule bg-panel p-1 shadow-lg'
export const MENU_ITEM =
  'flex cursor-pointer items-center gap-2 rounded px-2 py-1 outline-none select-none data-[disabled]:opacity-40 data-[highlighted]:bg-well'
