const KEY = 'rookery.author'
const NAMES = ['Sorrel', 'Yarrow', 'Campion', 'Bryony', 'Teasel', 'Tansy', 'Sedge', 'Rowan', 'Alder', 'Fennel', 'Linnet', 'Dunnock']

/** The name under which this browser changes scenes, made up once and kept. */
export function author(): string {
  const kept = read()
  if (kept) return kept
  const [name, number] = crypto.getRandomValues(new Uint32Array(2))
  const made = `${NAMES[name % NAMES.length]} ${(number % 9000) + 1000}`
  try {
    localStorage.setItem(KEY, made)
  } catch {
    memory = made
  }
  return made
}

/** Where nothing can be kept, the name lasts as long as the page. */
let memory: string | null = null

function read(): string | null {
  try {
    return localStorage.getItem(KEY) ?? memory
  } catch {
    return memory
  }
}
