import { benchArranging } from './arranging';
await benchArranging();
