import { useState } from 'react';

/** The month that it is when the page is opened, as YYYY-MM. */
export const useThisMonth = (): string => useState(() => new Date().toISOString().slice(0, 7))[0];
