declare module 'swagger-ui-dist/swagger-ui-es-bundle.js' {
  export default function SwaggerUI(options: Record<string, unknown>): unknown;
}
