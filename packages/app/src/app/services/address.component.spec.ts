import { Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router, provideRouter } from '@angular/router';
import { beforeEach, describe, expect, it } from 'vitest';
import { AddressService } from './address.service';

@Component({ template: '' })
class PlaceComponent {}

describe('the address', () => {
  beforeEach(async () => {
    const routes = ['calls/:id', 'source/:id'].map((path) => ({ path, component: PlaceComponent }));
    TestBed.resetTestingModule().configureTestingModule({ providers: [provideRouter(routes)] });
    await TestBed.inject(Router).navigateByUrl('/calls/friday?show=flat');
  });

  it('takes in several changes that are made at once, each of them', async () => {
    const address = TestBed.inject(AddressService);
    const changed = [address.change({ rows: '7' }, true), address.change({ function: 3, show: null }, true)];
    await Promise.all(changed);
    expect(address.query()).toEqual({ rows: '7', function: '3' });
    await address.change({ rows: null });
    expect(address.query()).toEqual({ function: '3' });
  });

  it('goes to another view with what is still on its way', async () => {
    const address = TestBed.inject(AddressService);
    void address.change({ rows: '7' });
    await address.go('source', 'friday', { function: 3 });
    expect([address.view(), address.query()]).toEqual(['source', { show: 'flat', rows: '7', function: '3' }]);
  });
});
