import { testKind } from '@norther/core';
import { describe, expect, it } from 'vitest';
import { columnsPasted, listsOf } from './pasteColumns.ts';

const LISTS = ['torques', 'amps', 'watts'];

describe('points pasted from a spreadsheet', () => {
  it('go column by column into the list and those after it', () => {
    expect(columnsPasted('61.7\t17.9\t10684\r\n56.8\t16.7\t9800\r\n', 'torques', LISTS)).toEqual({
      torques: '61.7; 56.8',
      amps: '17.9; 16.7',
      watts: '10684; 9800',
    });
    expect(columnsPasted('17,9\t10684\n16,7\t9800', 'amps', LISTS)).toEqual({
      amps: '17,9; 16,7',
      watts: '10684; 9800',
    });
    // what lies outside is left out
    expect(columnsPasted('1\t2\n3\t4', 'watts', LISTS)).toEqual({ watts: '1; 3' });
  });
  it('heads and empty lines are left out; one column, one row', () => {
    expect(columnsPasted('Torque\tCurrent\n\n61.7\t17.9\n56.8\t16.7', 'torques', LISTS)).toEqual({
      torques: '61.7; 56.8',
      amps: '17.9; 16.7',
    });
    expect(columnsPasted('61.7\n56.8', 'torques', LISTS)).toEqual({ torques: '61.7; 56.8' });
    expect(columnsPasted('61.7\t17.9', 'torques', LISTS)).toEqual({ torques: '61.7', amps: '17.9' });
  });
  it('plain text is pasted as it is, and so is what goes elsewhere', () => {
    expect(columnsPasted('61.7, 56.8', 'torques', LISTS)).toBeUndefined();
    expect(columnsPasted('1\t2\n3\t4', 'volts', LISTS)).toBeUndefined();
  });
  it('the lists of a load test in their order', () => {
    expect(listsOf(testKind('loadTest') ?? { fields: [] }).slice(0, 5)).toEqual([
      'torques',
      'amps',
      'watts',
      'speeds',
      'windingsC',
    ]);
  });
});
