document.getElementById('deck').addEventListener('click', () => performance.mark('left'));
