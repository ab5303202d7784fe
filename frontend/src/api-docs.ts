import 'swagger-ui-dist/swagger-ui.css';
import SwaggerUI from 'swagger-ui-dist/swagger-ui-es-bundle.js';

SwaggerUI({ dom_id: '#api', url: '/api/openapi.json', deepLinking: true, validatorUrl: null });
