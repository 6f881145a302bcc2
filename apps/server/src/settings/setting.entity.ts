import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('setting')
export class Setting {
  @PrimaryColumn('text') key: string;
  @Column('simple-json') value: unknown;
}
