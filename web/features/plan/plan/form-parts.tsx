import styled from 'styled-components'

/** Fields of the plan form side by side, as many as there is room for. */
export const Grid = styled.div`display: grid; gap: 12px 16px; grid-template-columns: repeat(auto-fill, minmax(170px, 1fr)); align-items: start;`
/** A chapter of the form. */
export const Part = styled.fieldset`border: 0; border-top: 2px solid var(--ink); padding: 12px 0 0; margin: 0; min-width: 0; display: grid; gap: 12px; legend { font: 650 18px/1 'Archivo Variable', sans-serif; padding: 0 12px 0 0; }`
/** Lines of a list, each with its fields and what takes it out. */
export const Lines = styled.div`display: grid; gap: 8px; .line { display: flex; flex-wrap: wrap; gap: 10px; align-items: flex-start; max-width: 640px; } .line > * { flex: 1 1 90px; min-width: 0; } .line > button, .line > span { flex: 0 0 48px; } .line > button { margin-top: 26px; }`
