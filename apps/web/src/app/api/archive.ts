import type { ArchiveEntry, archiveImportBody, BroughtAnswer, SimilarAnswer } from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import type { z } from 'zod';
import { api } from './base.ts';

export const archiveApi = api.injectEndpoints({
  endpoints: (b) => ({
    archive: b.query<ArchiveEntry[], string>({
      query: (q) => `archive?q=${encodeURIComponent(q)}`,
      providesTags: ['Archive'],
    }),
    similar: b.query<
      SimilarAnswer,
      { key: string } | { number: string; part: WindingPart; typed: Record<string, string> }
    >({
      query: (body) => ({ url: 'archive/similar', method: 'POST', body }),
      providesTags: ['Archive'],
    }),
    likeness: b.query<SimilarAnswer, string>({
      query: (work) => `archive/similar/${work}`,
      providesTags: ['Archive'],
    }),
    bringArchive: b.mutation<BroughtAnswer, z.input<typeof archiveImportBody>>({
      query: (body) => ({ url: 'archive', method: 'POST', body }),
      invalidatesTags: ['Archive'],
    }),
  }),
});

export const { useArchiveQuery, useSimilarQuery, useLikenessQuery, useBringArchiveMutation } = archiveApi;
