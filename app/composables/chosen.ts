/** What is chosen on the sheets: kept while one goes from sheet to sheet. */
const chosen = reactive({ network: '', device: '', port: '', link: '', vlan: 0 })

export const useChosen = () => chosen
