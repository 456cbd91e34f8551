import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, LegendComponent } from 'echarts/components'
import { init, use as withParts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { chartInk, keptToSize } from '../../ui'

withParts([LineChart, ScatterChart, GridComponent, LegendComponent, CanvasRenderer])

/** One look: seconds since the first, what an explanation reads, and what was expected. */
export interface LookOnChart {
  readonly seconds: number
  readonly value: number
  readonly expected: number | undefined
}

/** Draws what an explanation reads over the looks, and what was expected at each. */
export function drawLooks(box: HTMLElement, looks: readonly LookOnChart[], unit: string): () => void {
  const { ink, rule, proven, words } = chartInk(box)
  const chart = init(box)
  const axis = { axisLabel: words, axisLine: { lineStyle: { color: rule } }, splitLine: { lineStyle: { color: rule } } }
  chart.setOption({
    animation: false,
    grid: { left: 62, right: 16, top: 30, bottom: 40 },
    legend: { top: 0, left: 56, itemGap: 16, selectedMode: false, textStyle: { ...words, color: ink } },
    xAxis: { type: 'value', name: 's', nameLocation: 'middle', nameGap: 24, nameTextStyle: words, ...axis },
    yAxis: { type: 'value', scale: true, name: unit, nameTextStyle: words, ...axis },
    series: [
      {
        type: 'line',
        name: 'As explained',
        data: looks.map(({ seconds, value }) => [seconds, value]),
        lineStyle: { color: ink, width: 2 },
        itemStyle: { color: ink },
      },
      {
        type: 'scatter',
        name: 'Expected',
        data: looks.flatMap(({ seconds, expected }) => (expected === undefined ? [] : [[seconds, expected]])),
        symbol: 'diamond',
        symbolSize: 11,
        itemStyle: { color: proven },
      },
    ],
  })
  return keptToSize(chart)
}
