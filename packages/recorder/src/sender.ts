import { startSender } from './sender/start';

startSender();
