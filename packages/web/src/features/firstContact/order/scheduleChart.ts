import type { WalkPlan } from '@calm/core/procedure'
import { CustomChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { init, use as withParts } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

withParts([CustomChart, GridComponent, CanvasRenderer])

const ROW = 20

/** Draws what is done when, a row for each action: solid with hands on, an outline while something starts. */
export function drawSchedule(box: HTMLElement, plan: WalkPlan, titles: readonly string[]): () => void {
  const { schedule, tasks } = plan
  const shown = tasks.map((task, index) => ({ task, index })).filter(({ task }) => task.seconds > 0)
  const style = getComputedStyle(box)
  const ink = style.getPropertyValue('--color-ink').trim()
  const soft = style.getPropertyValue('--color-ink-soft').trim()
  const rule = style.getPropertyValue('--color-rule').trim()
  const font = style.fontFamily
  // The longest wait for something that an action started, drawn behind it.
  const waitAfter = tasks.map(() => 0)
  for (const task of tasks)
    for (const { after, seconds } of task.waits) waitAfter[after] = Math.max(waitAfter[after] ?? 0, seconds)
  box.style.height = `${shown.length * ROW + 40}px`
  const chart = init(box)
  chart.setOption({
    animation: false,
    grid: { left: 210, right: 16, top: 8, bottom: 28 },
    xAxis: {
      type: 'value',
      max: Math.ceil(schedule.finish / 60) * 60,
      axisLabel: {
        color: soft,
        fontFamily: font,
        fontSize: 13,
        showMaxLabel: false,
        formatter: (value: number) => `${Math.round(value / 60)} min`,
      },
      splitLine: { lineStyle: { color: rule } },
      interval: Math.max(60, Math.ceil(schedule.finish / 8 / 60) * 60),
    },
    yAxis: {
      type: 'category',
      inverse: true,
      data: shown.map(({ index }) => titles[index] ?? ''),
      axisLabel: { color: ink, fontFamily: font, fontSize: 13, width: 200, overflow: 'truncate' },
      axisTick: { show: false },
      axisLine: { lineStyle: { color: rule } },
    },
    series: [
      {
        type: 'custom',
        data: shown.map(({ task, index }, row) => [
          row,
          schedule.starts[index] ?? 0,
          task.seconds,
          waitAfter[index] ?? 0,
        ]),
        encode: { x: [1, 2], y: 0 },
        renderItem: (
          _params: unknown,
          api: { value: (at: number) => number; coord: (at: [number, number]) => [number, number] },
        ) => {
          const [row, start, seconds, wait] = [0, 1, 2, 3].map((at) => api.value(at)) as [
            number,
            number,
            number,
            number,
          ]
          const [x, y] = api.coord([start, row])
          const [end] = api.coord([start + seconds, row])
          const [later] = api.coord([Math.min(schedule.finish, start + seconds + wait), row])
          return {
            type: 'group',
            children: [
              { type: 'rect', shape: { x, y: y - 6, width: Math.max(2, end - x), height: 12 }, style: { fill: ink } },
              ...(wait > 0
                ? [
                    {
                      type: 'rect',
                      shape: { x: end, y: y - 4, width: Math.max(0, later - end), height: 8 },
                      style: { fill: 'none', stroke: soft, lineDash: [3, 2] },
                    },
                  ]
                : []),
            ],
          }
        },
      },
    ],
  })
  const resize = new ResizeObserver(() => chart.resize())
  resize.observe(box)
  return () => {
    resize.disconnect()
    chart.dispose()
  }
}
