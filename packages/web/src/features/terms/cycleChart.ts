import { usualRates, type RoundCurve } from '@calm/core/serial'
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, LegendComponent } from 'echarts/components'
import { init, use as withParts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { chartInk, keptToSize } from '../../ui'

withParts([LineChart, ScatterChart, GridComponent, LegendComponent, CanvasRenderer])

/** Strokes tell the curves apart, not colours alone. */
const STROKES = ['solid', 'dashed', 'dotted'] as const

/** Draws the time of a round against the bit rate, a curve for each number of silent units, and where this line is. */
export function drawCycle(
  box: HTMLElement,
  curves: readonly RoundCurve[],
  here: { readonly rate: number; readonly ms: number },
): () => void {
  const { ink, rule, proven, words } = chartInk(box)
  const chart = init(box)
  chart.setOption({
    animation: false,
    grid: { left: 62, right: 16, top: 30, bottom: 42 },
    legend: { top: 0, left: 56, itemGap: 16, selectedMode: false, textStyle: { ...words, color: ink } },
    xAxis: {
      type: 'category',
      data: usualRates.map(String),
      name: 'bit/s',
      nameLocation: 'middle',
      nameGap: 26,
      nameTextStyle: words,
      axisLabel: { ...words, hideOverlap: true },
      axisLine: { lineStyle: { color: rule } },
    },
    yAxis: {
      type: 'log',
      axisLabel: { ...words, formatter: (ms: number) => (ms >= 1000 ? `${ms / 1000} s` : `${ms} ms`) },
      splitLine: { lineStyle: { color: rule } },
    },
    series: [
      ...curves.map(({ silent, roundsMs }, index) => ({
        type: 'line',
        name: silent === 0 ? 'All answer' : `${silent} silent`,
        data: roundsMs.map((ms) => ms ?? null),
        showSymbol: false,
        lineStyle: { color: ink, width: 2, type: STROKES[index % STROKES.length] },
        itemStyle: { color: ink },
      })),
      {
        type: 'scatter',
        name: 'This line',
        data: [[String(here.rate), here.ms]],
        symbolSize: 11,
        itemStyle: { color: proven },
      },
    ],
  })
  return keptToSize(chart)
}
