// Before any test file: the database looks for one when it is first imported, whichever test does so.
import 'fake-indexeddb/auto';
