const Html = require('html-webpack-plugin');

module.exports = {
  mode: 'development',
  entry: './src/main.js',
  devtool: process.env.DEVTOOL ?? 'eval-source-map',
  devServer: { hot: true, client: { overlay: false } },
  plugins: [new Html({ template: 'index.html' })],
};
