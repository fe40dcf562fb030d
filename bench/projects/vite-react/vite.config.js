import react from '@vitejs/plugin-react';

export default { plugins: [react()], clearScreen: false };
