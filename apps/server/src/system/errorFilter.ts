import { Catch, HttpException, Logger, type ArgumentsHost, type ExceptionFilter } from '@nestjs/common';
import { ArkivError, errorBody, type ErrorBody } from '@arkiv/core';
import type { Response } from 'express';

/** Every failure leaves as `{ code, message, details, next }` from the catalogue. */
@Catch()
export class ErrorFilter implements ExceptionFilter {
  private readonly log = new Logger('http');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    // A response that has begun must not look whole.
    if (response.headersSent) {
      response.destroy();
      return;
    }
    const { status, body } = this.describe(error);
    response.status(status).json(body);
  }

  private describe(error: unknown): { status: number; body: ErrorBody } {
    if (error instanceof ArkivError) return { status: error.status, body: error.body() };
    if (error instanceof HttpException) {
      const status = error.getStatus();
      const answer = error.getResponse() as { message?: string | string[] };
      const reason = Array.isArray(answer.message)
        ? answer.message.join('; ')
        : (answer.message ?? error.message);
      if (status === 404) return { status, body: errorBody('not-found', { what: 'page', id: reason }) };
      if (status < 500) return { status, body: errorBody('request.invalid', { reason }) };
    }
    this.log.error((error as Error).stack ?? String(error));
    return { status: 500, body: errorBody('internal', { reason: (error as Error).name ?? 'unknown' }) };
  }
}
