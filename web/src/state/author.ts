const KEY = 'rookery.author'
const COOKIE = 'rookery_author'
const NAMES = ['Sorrel', 'Yarrow', 'Campion', 'Bryony', 'Teasel', 'Tansy', 'Sedge', 'Rowan', 'Alder', 'Fennel', 'Linnet', 'Dunnock']

/** Kept for a year after it was last used. */
const KEPT_S = 31_536_000

/**
 * The name under which this browser changes scenes, made up once and kept. A cookie keeps it for a server that came back at another port;
 * what storage keeps is another there.
 */
export function author(): string {
  if (memory) return memory
  memory = read() ?? madeUp()
  try {
    document.cookie = `${COOKIE}=${encodeURIComponent(memory)}; Path=/; Max-Age=${KEPT_S}; SameSite=Strict`
    localStorage.setItem(KEY, memory)
  } catch {
    // Where nothing can be kept, the name lasts as long as the page.
  }
  return memory
}

let memory: string | null = null

function madeUp(): string {
  const [name, number] = crypto.getRandomValues(new Uint32Array(2))
  return `${NAMES[name % NAMES.length]} ${(number % 9000) + 1000}`
}

function read(): string | null {
  try {
    const cookie = document.cookie.split('; ').find((c) => c.startsWith(`${COOKIE}=`))
    return cookie ? decodeURIComponent(cookie.slice(COOKIE.length + 1)) : localStorage.getItem(KEY)
  } catch {
    return null
  }
}
