import type { Asset } from './queries'

/** In words, how an asset is written off. */
export function how(asset: Asset): string {
  if (asset.method === 'none') return 'not at all'
  if (asset.method === 'units') return `by use, ${asset.life} units`
  if (asset.method === 'reducing-balance') return `${asset.rate}% of what is left`
  return asset.life ? `evenly, ${asset.life} years` : `evenly, ${asset.rate}% a year`
}
