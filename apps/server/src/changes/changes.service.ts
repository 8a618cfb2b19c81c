import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Subject, type Observable } from 'rxjs';

/** Something of a project that is not what it was. */
export interface Change {
  readonly projectId: string;
  readonly what: 'job' | 'asset';
  readonly id: string;
}

/** Tells whoever listens that jobs and files have changed. */
@Injectable()
export class ChangesService implements OnModuleDestroy {
  private readonly said = new Subject<Change>();

  get all(): Observable<Change> {
    return this.said.asObservable();
  }

  tell(what: Change['what'], projectId: string, id: string): void {
    this.said.next({ projectId, what, id });
  }

  /** Streams end, so that the server can. */
  onModuleDestroy(): void {
    this.said.complete();
  }
}
