import { z } from 'zod';

// The page's policy lets no text become code: schemas are walked instead of compiled.
z.config({ jitless: true });
