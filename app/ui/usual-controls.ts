// Controls that the first page does without and most other sheets have: loaded ahead, so that a sheet brings less.
export { VDataTableVirtual } from 'vuetify/components/VDataTable'
export { VList } from 'vuetify/components/VList'
export { VSelect } from 'vuetify/components/VSelect'
