import type { Layer } from '../api/client'
import { useScene } from '../state/scene'
import { Choice } from '../ui/Choice'

export function PatternChoice({ layer }: { layer: Layer }) {
  const { editLayer } = useScene.getState()
  return (
    <Choice
      label="Pattern"
      value={layer.pattern}
      disabled={layer.locked}
      options={[
        { value: 'even', name: 'Evenly spread', hint: 'No two much nearer than the rest' },
        { value: 'random', name: 'At random', hint: 'Each place as likely as any other' },
      ]}
      onChange={(value) => editLayer(layer.id, { set: 'pattern', value })}
    />
  )
}
