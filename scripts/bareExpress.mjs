// The yardstick of `npm run bench`: an Express server that does nothing but answer one short route. Prints its port.
import express from 'express';

const app = express();
app.get('/', (_request, response) => response.json({ now: Date.now() }));
const server = app.listen(0, '127.0.0.1', () => console.log(server.address().port));
