import { Injectable, type PipeTransform } from '@nestjs/common';
import { notFound } from './problem.js';

export const SHA256 = /^[0-9a-f]{64}$/;

/** A SHA-256 in an address; what is none names nothing. */
@Injectable()
export class ParseHashPipe implements PipeTransform<string, string> {
  transform(value: string): string {
    if (!SHA256.test(value)) throw notFound('photo');
    return value;
  }
}
