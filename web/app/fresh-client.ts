import { QueryClient, type InvalidateOptions, type InvalidateQueryFilters } from '@tanstack/react-query';

/**
 * A client for which what is invalid is asked for again, also where its first answer is still on its way: that one may have
 * been given before the change.
 */
export class FreshQueryClient extends QueryClient {
  override async invalidateQueries(
    filters?: InvalidateQueryFilters,
    options?: InvalidateOptions,
  ): Promise<void> {
    const first = this.getQueryCache()
      .findAll(filters)
      .filter(({ state }) => state.fetchStatus !== 'idle' && state.data === undefined);
    // By itself it only waits for those.
    await super.invalidateQueries(filters, options);
    await Promise.all(
      first.map(({ queryKey }) => super.invalidateQueries({ queryKey, exact: true }, options)),
    );
  }
}
