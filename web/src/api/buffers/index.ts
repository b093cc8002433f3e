/*
 * The one decoder of the compact buffers, a file a buffer. Their layout is written down beside the one encoder, in
 * crates/rookery-formats/src/view. Little-endian; every array starts at a multiple of four bytes.
 */

export * from './bySpecies'
export * from './fits'
export * from './flow'
export * from './forms'
export * from './ground'
export * from './histogram'
export * from './mask'
export * from './mesh'
export * from './nap'
export * from './meshGround'
export * from './plantChanges'
export * from './plants'
export * from './reading'
export * from './soils'
export * from './textures'
export * from './waves'
