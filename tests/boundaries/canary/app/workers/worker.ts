import { store } from '~/stores/store'
postMessage(store)
