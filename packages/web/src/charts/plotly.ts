// Only what is drawn: the core and one trace kind, a tenth of the whole library.
import Plotly from 'plotly.js/lib/core';
import scatter from 'plotly.js/lib/scatter';

Plotly.register([scatter]);

export default Plotly;
