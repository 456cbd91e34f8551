import { Columns3 } from 'lucide-react'
import { Button } from '../button'
import { Menu, MenuCheck, MenuItem } from '../menu'
import { tip } from '../tips'
import type { RowTable } from './useColumns'

interface ColumnsMenuProps<Row> {
  readonly table: RowTable<Row>
  readonly label: string
  readonly nameOf: (id: string) => string
}

/** Which columns show. Only what a person has no use for is hidden: it is still there, and comes back here. */
export function ColumnsMenu<Row>({ table, label, nameOf }: ColumnsMenuProps<Row>) {
  const columns = table.getAllLeafColumns().filter((column) => column.getCanHide())
  const hidden = columns.filter((column) => !column.getIsVisible())
  const touched = hidden.length > 0 || Object.keys(table.state.columnSizing).length > 0
  return (
    <Menu
      trigger={
        <Button look="icon" className="ml-auto size-6 flex-none text-ink-soft" aria-label={label} {...tip('Columns')}>
          <Columns3 size={15} aria-hidden />
        </Button>
      }
    >
      {columns.map((column) => (
        <MenuCheck key={column.id} checked={column.getIsVisible()} onChange={(shown) => column.toggleVisibility(shown)}>
          {nameOf(column.id)}
        </MenuCheck>
      ))}
      {touched && (
        <MenuItem
          onSelect={() => {
            table.resetColumnSizing(true)
            table.resetColumnVisibility(true)
          }}
        >
          As they were made
        </MenuItem>
      )}
    </Menu>
  )
}
