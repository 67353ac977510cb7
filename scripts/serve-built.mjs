// Serves what is built already, and installs nothing: for a container or a service.
import { serve } from './serve.mjs';

await serve({ data: process.env.DRAWER_DATA });
