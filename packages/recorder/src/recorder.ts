import { startPage } from './page/start';

startPage();
