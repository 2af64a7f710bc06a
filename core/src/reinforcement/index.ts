export * from './layers'
