import { z } from './zod';

/** Tempo in pulses a minute: a quarter note, or a dotted quarter in 6/8 (see `pulseTicks`). */
export const tempoSchema = z.number().min(20).max(300);
