import { createHash } from 'node:crypto';
import type { ControlPhoto, ControlPhotoForm, PhotoKept, Sent } from '@firm-needle/contract';
import { PHOTO_SIDE } from '@firm-needle/core/procedure';
import { Injectable } from '@nestjs/common';
import { InjectConnection, InjectModel } from '@nestjs/sequelize';
import { imageSize } from 'image-size';
import { QueryTypes, UniqueConstraintError, type Sequelize } from 'sequelize';
import { notFound, Problem, wrongField } from '../common/problem.js';
import { mayWrite } from '../common/records.js';
import type { Actor } from '../common/user.js';
import { ControlsService } from '../controls/controls.service.js';
import { ControlPhotoRow, Photo } from '../database/models.js';

/** More than any photo of that many pixels needs. */
export const MOST_PHOTO_BYTES = 2 * 1024 * 1024;

const START = Buffer.from([0xff, 0xd8, 0xff]);
/** The segment in which cameras write where, when and with what a photo was taken. */
const EXIF = Buffer.from('Exif\0\0', 'latin1');
const HEAD_BYTES = 64 * 1024;

/** Photos by their hash: bytes that were reduced on the device, kept once a firm. */
@Injectable()
export class PhotosService {
  constructor(
    @InjectModel(Photo) private readonly photos: typeof Photo,
    @InjectModel(ControlPhotoRow) private readonly ofControls: typeof ControlPhotoRow,
    @InjectConnection() private readonly db: Sequelize,
    private readonly controls: ControlsService,
  ) {}

  /** Keeps a photo's bytes; the same bytes twice are one photo. */
  async put(actor: Actor, hash: string, data: unknown): Promise<PhotoKept> {
    mayWrite(actor);
    const { width, height, bytes } = checked(hash, data);
    const { id: organisationId } = actor.organisation;
    const known = await this.photos.count({ where: { organisationId, hash } });
    if (known === 0)
      try {
        await this.photos.create({
          organisationId,
          hash,
          width,
          height,
          bytes: bytes.length,
          data: bytes,
          createdBy: actor.id,
          createdAt: new Date(),
        });
      } catch (error) {
        // The same bytes came twice at once.
        if (!(error instanceof UniqueConstraintError)) throw error;
      }
    return { hash, width, height, bytes: bytes.length };
  }

  /** A photo's bytes, for who may see what it is of. */
  async bytes(actor: Actor, hash: string): Promise<Buffer> {
    if (actor.site && !(await this.shownAt(actor.site, hash))) throw notFound('photo');
    const data = await this.of(actor.organisation.id, hash);
    if (!data) throw notFound('photo');
    return data;
  }

  /** A photo of a firm; undefined where its bytes have not arrived. */
  async of(organisationId: string, hash: string): Promise<Buffer | undefined> {
    const photo = await this.photos.findOne({ where: { organisationId, hash }, attributes: ['data'] });
    return photo?.data;
  }

  /** What is kept of a control's looks: photos of itself, and those of its jobs, the newest first. */
  async list(actor: Actor, controlId: string): Promise<readonly ControlPhoto[]> {
    await this.controls.reach(actor, controlId);
    const rows = await this.db.query<Omit<ControlPhoto, 'at'> & { at: Date }>(
      `SELECT id, hash, width, height, text, created_at AS at, NULL AS job FROM control_photos
         WHERE control_id = :id AND removed_at IS NULL
       UNION ALL
       SELECT e.id, JSON_VALUE(e.text, '$.body.hash'), JSON_VALUE(e.text, '$.body.width'), JSON_VALUE(e.text, '$.body.height'),
         JSON_VALUE(e.text, '$.body.text'), e.received_at, e.job_id
       FROM jobs j JOIN job_events e ON e.job_id = j.id AND e.kind = 'photo'
       LEFT JOIN job_results r ON r.job_id = j.id
       WHERE j.control_id = :id AND COALESCE(r.practice, FALSE) = FALSE AND NOT EXISTS (
         SELECT 1 FROM job_events c WHERE c.job_id = j.id AND c.kind = 'correct' AND JSON_VALUE(c.text, '$.body.corrects') = e.id)
       ORDER BY at DESC LIMIT 60`,
      { replacements: { id: controlId }, type: QueryTypes.SELECT },
    );
    return rows.map((r) => ({
      ...r,
      width: Number(r.width),
      height: Number(r.height),
      at: r.at.toISOString(),
    }));
  }

  /** A photo of a control itself, or that it is taken away again; the bytes come by themselves. */
  async ofControl(
    actor: Actor,
    controlId: string,
    id: string,
    { removed = false, ...photo }: ControlPhotoForm,
  ): Promise<Sent<{ id: string }>> {
    mayWrite(actor);
    await this.controls.reach(actor, controlId);
    const known = await this.ofControls.findByPk(id);
    if (known && (known.organisationId !== actor.organisation.id || known.controlId !== controlId))
      throw new Problem(409, 'id-reused', 'That photo id is taken.');
    if (!known)
      await this.ofControls.create({
        ...photo,
        id,
        organisationId: actor.organisation.id,
        controlId,
        createdBy: actor.id,
        createdAt: new Date(),
        removedAt: removed ? new Date() : null,
      });
    else if (removed !== (known.removedAt !== null))
      await known.update({ removedAt: removed ? new Date() : null });
    return { id };
  }

  /** Whether a photo is of something at a site. */
  private async shownAt(site: string, hash: string): Promise<boolean> {
    const rows = await this.db.query(
      `SELECT 1 FROM control_photos p JOIN controls c ON c.id = p.control_id JOIN equipment e ON e.id = c.equipment_id
         WHERE e.site_id = :site AND p.hash = :hash AND p.removed_at IS NULL
       UNION ALL
       SELECT 1 FROM equipment q JOIN controls c ON c.equipment_id = q.id JOIN jobs j ON j.control_id = c.id
         JOIN job_events v ON v.job_id = j.id AND v.kind = 'photo'
         WHERE q.site_id = :site AND JSON_VALUE(v.text, '$.body.hash') = :hash
       LIMIT 1`,
      { replacements: { site, hash }, type: QueryTypes.SELECT },
    );
    return rows.length > 0;
  }
}

/** A photo as it may be kept: a JPEG of the size that devices reduce to, without what a camera writes beside the picture. */
function checked(hash: string, data: unknown): { width: number; height: number; bytes: Buffer } {
  if (!Buffer.isBuffer(data) || data.length === 0)
    throw wrongField('body', 'A photo is sent as its bytes (application/octet-stream).');
  if (data.length > MOST_PHOTO_BYTES)
    throw new Problem(
      413,
      'too-large',
      `A photo is at most ${MOST_PHOTO_BYTES / 1024 / 1024} MB; reduce it first.`,
    );
  if (createHash('sha256').update(data).digest('hex') !== hash)
    throw wrongField('hash', 'is not the SHA-256 of these bytes', 'Send it again.');
  const size = data.subarray(0, 3).equals(START) ? sizeOf(data) : undefined;
  if (!size)
    throw wrongField('body', 'That is no JPEG picture.', 'Take the photo again, or choose a picture.');
  if (Math.max(size.width, size.height) > PHOTO_SIDE)
    throw wrongField(
      'body',
      `A photo is at most ${PHOTO_SIDE} pixels long; this one has ${Math.max(size.width, size.height)}.`,
    );
  if (data.subarray(0, HEAD_BYTES).includes(EXIF))
    throw wrongField(
      'body',
      'The photo still carries what the camera wrote beside it, such as the place.',
      'Reduce it on the device first.',
    );
  return { ...size, bytes: data };
}

function sizeOf(data: Buffer): { width: number; height: number } | undefined {
  try {
    const { width, height, type } = imageSize(data);
    return type === 'jpg' && width > 0 && height > 0 ? { width, height } : undefined;
  } catch {
    return undefined;
  }
}
