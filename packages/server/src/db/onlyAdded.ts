/** Triggers that let rows of a table be added, never changed or taken away. */
export const onlyAdded = (table: string): readonly string[] =>
  ['UPDATE', 'DELETE'].map(
    (change) =>
      `CREATE TRIGGER "${table}_no_${change.toLowerCase()}" BEFORE ${change} ON "${table}"
       BEGIN SELECT RAISE(ABORT, '${table} is append-only'); END`,
  )
