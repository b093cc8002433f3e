import type { Schemas } from '../api/client'

/** What a scene has that says nothing of its motion, as in rookery-core/src/document/motion.rs. */
export const CLOCK: Schemas['Clock'] = { length_s: 10, frame_rate: 24 }
export const GUSTS: Schemas['GustSettings'] = { strength: 0.25, size_m: 20, change: 1, seed: 1 }
export const WIND: Schemas['Wind'] = { speed_m_per_s: 0, from_deg: 250, gusts: GUSTS }
