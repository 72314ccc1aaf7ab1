import { createPinia, defineStore, setActivePinia } from 'pinia'
import { computed, onScopeDispose, reactive, ref, shallowRef, watch } from 'vue'

// What the framework imports by itself inside the application.
Object.assign(globalThis, { defineStore, computed, onScopeDispose, reactive, ref, shallowRef, watch })
setActivePinia(createPinia())
