import { sendPicture } from '../api/client';
import { notices } from './notices.svelte';

/** What a chooser of pictures offers. Names, since not every system knows the kind of a HEIC or a PSD. */
export const PICTURES = '.png,.jpg,.jpeg,.webp,.tif,.tiff,.psd,.psb,.ora,.kra,.heic,.heif,.avif,.bmp,.gif';
/** ... of pictures, clips and books. */
export const PICTURES_AND_CLIPS = `${PICTURES},.mp4,.mov,.webm,.cbz,.pdf`;

/** Whether a dropped file is a picture, by its kind or its name. */
export const isPicture = (file: File) => file.type.startsWith('image/') || PICTURES.split(',').some((end) => file.name.toLowerCase().endsWith(end));

/** Take one picture in; its digest, or null. Why it was refused, or what became of it on the way, is told. */
export async function brought(projectId: string, file: File, name = file.name): Promise<string | null> {
  try {
    const { sha, refused, told } = await sendPicture(projectId, file, name);
    if (refused || told) notices.say(`${name}: ${refused || told}`, refused ? 'trouble' : 'plain');
    return sha;
  } catch (error) {
    notices.say((error as Error).message, 'trouble');
    return null;
  }
}
