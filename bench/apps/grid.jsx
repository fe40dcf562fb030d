/** A data grid: the manifest as a table that is searched and sorted. */
import { useMemo, useState } from 'react';
import { createRoot } from 'react-dom/client';
import {
  createColumnHelper,
  flexRender,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import { passengers, quiet } from './world.js';

const all = passengers(quiet ? 400 : 3250);
const column = createColumnHelper();
const formatFare = (fare) =>
  quiet ? fare.toFixed(2) : new Intl.NumberFormat('en', { style: 'currency', currency: 'EUR' }).format(fare);
const columns = [
  column.accessor('name', { header: 'Name' }),
  column.accessor('port', { header: 'Port' }),
  column.accessor('seat', { header: 'Seat' }),
  column.accessor('fare', { header: 'Fare', cell: (cell) => formatFare(cell.getValue()) }),
];

function Passenger({ row }) {
  return (
    <tr>
      {row.getVisibleCells().map((cell) => (
        <td key={cell.id}>{flexRender(cell.column.columnDef.cell, cell.getContext())}</td>
      ))}
    </tr>
  );
}

function Manifest() {
  const [globalFilter, setGlobalFilter] = useState('');
  const [sorting, setSorting] = useState([]);
  const table = useReactTable({
    data: all,
    columns,
    state: { globalFilter, sorting },
    onGlobalFilterChange: setGlobalFilter,
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const { rows } = table.getRowModel();
  const shown = useMemo(() => (quiet ? rows.slice(0, 30) : rows), [rows]);
  return (
    <>
      <input
        id="search"
        aria-label="Search manifest"
        value={globalFilter}
        onChange={(event) => setGlobalFilter(event.target.value)}
      />
      <p>{rows.length} passengers</p>
      <table>
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id}>
              {group.headers.map((header) => (
                <th key={header.id} id={header.id} onClick={header.column.getToggleSortingHandler()}>
                  {flexRender(header.column.columnDef.header, header.getContext())}
                </th>
              ))}
            </tr>
          ))}
        </thead>
        <tbody>
          {shown.map((row) => (
            <Passenger key={row.id} row={row} />
          ))}
        </tbody>
      </table>
    </>
  );
}

document.body.innerHTML = '<main></main>';
createRoot(document.querySelector('main')).render(<Manifest />);
