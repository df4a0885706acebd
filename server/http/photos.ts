import { PhotoId } from '#model/photo';
import { keepPhoto, readPhoto } from '../store/photos';
import { Problem } from './problem';
import { route } from './route';

const idOf = (params: Record<string, string>): string => {
  const id = PhotoId.safeParse(params.id);
  if (!id.success) throw new Problem(404, 'Not here', 'There is no such picture.');
  return id.data;
};

export const photoRoutes = [
  route({
    method: 'put',
    path: '/api/photos/:id',
    summary: 'Keep a picture under the SHA-256 of its bytes: JPEG, PNG or WebP, at most 8 MB',
    action: 'photo.taken',
    bytes: true,
    handle: async ({ params, body, person }, { shop, workers }) => {
      await keepPhoto(shop, workers, idOf(params), body as Buffer, person.id, { person: person.id });
      return { id: params.id };
    },
  }),
  route({
    method: 'get',
    path: '/api/photos/:id',
    summary: 'A picture',
    produces: 'image/jpeg',
    handle: async ({ params, res }, { shop }) => {
      const photo = await readPhoto(shop, idOf(params));
      if (!photo) throw new Problem(404, 'Not here', 'There is no such picture.');
      // it goes by its bytes, so it never changes; kept by this browser only
      res.type(photo.type).setHeader('Cache-Control', 'private, max-age=31536000, immutable');
      res.send(photo.bytes);
    },
  }),
];
