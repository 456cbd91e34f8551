import type { EChartsType } from 'echarts/core'

/** Colours and words of a chart, taken from the page around it. */
export function chartInk(box: HTMLElement) {
  const style = getComputedStyle(box)
  const colour = (name: string) => style.getPropertyValue(name).trim()
  const soft = colour('--color-ink-soft')
  return {
    ink: colour('--color-ink'),
    rule: colour('--color-rule'),
    proven: colour('--color-proven'),
    words: { color: soft, fontFamily: style.fontFamily, fontSize: 13 },
  }
}

/** Keeps a chart as wide as its box; returns the way to end it. */
export function keptToSize(chart: EChartsType): () => void {
  const resize = () => chart.resize()
  window.addEventListener('resize', resize)
  return () => {
    window.removeEventListener('resize', resize)
    chart.dispose()
  }
}
