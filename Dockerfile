# Bloodstone in a container: built from its source, run by a user of its own, its data in a volume (docs/deploy.md).
FROM node:20-bookworm-slim AS build
WORKDIR /app
COPY package.json package-lock.json ./
RUN npm ci --no-audit --no-fund
COPY . .
RUN npm run build && npm prune --omit=dev

FROM node:20-bookworm-slim
ENV NODE_ENV=production HOST=0.0.0.0 PORT=4600 BLOODSTONE_DATA=/data
WORKDIR /app
COPY --from=build /app/package.json ./
COPY --from=build /app/bin ./bin
COPY --from=build /app/build ./build
COPY --from=build /app/content ./content
COPY --from=build /app/server/db/migrations ./server/db/migrations
COPY --from=build /app/node_modules ./node_modules
RUN mkdir /data && chown node:node /data
USER node
VOLUME /data
EXPOSE 4600
HEALTHCHECK --interval=10s --timeout=5s --start-period=60s CMD ["node", "-e", "fetch('http://127.0.0.1:4600/readyz').then((r) => process.exit(r.ok ? 0 : 1), () => process.exit(1))"]
CMD ["node", "bin/serve.mjs"]
