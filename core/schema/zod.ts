import { z } from 'zod';

// Zod would compile its checks with `new Function`, which the app's content policy refuses; it has
// to be told before the first schema is made.
z.config({ jitless: true });

export { z };
